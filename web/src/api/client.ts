import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";
import { phrase } from "../words/phrase";

/** What went wrong, in the server's words (RFC 9457). */
export class Problem extends Error {
  readonly status: number;
  readonly code: string;

  constructor(status: number, code: string, words: string) {
    super(words);
    this.name = "Problem";
    this.status = status;
    this.code = code;
  }
}

interface ProblemBody {
  type?: string;
  detail?: string;
  title?: string;
}

function xsrf(): string {
  return /(?:^|; )XSRF-TOKEN=([^;]*)/.exec(document.cookie)?.[1] ?? "";
}

const guard: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-XSRF-TOKEN", decodeURIComponent(xsrf()));
    return request;
  },
  async onResponse({ response }) {
    if (response.ok) return;
    const body = (await response.json().catch(() => ({}))) as ProblemBody;
    throw new Problem(
      response.status,
      (body.type ?? "").replace("urn:kavrin:problem:", ""),
      body.detail ?? body.title ?? phrase("api.theServerAnswered", { status: response.status }),
    );
  },
  onError() {
    return new Problem(0, "unreachable", phrase("api.kavrinDoesNotAnswerIsIt"));
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(guard);

type Job = components["schemas"]["Job"];

/** Told of jobs this page waits for, as they go on. */
export type OnTheWay = (job: Job) => void;

/**
 * What came of a job, once it has ended; a failure is thrown as a call that failed at once would
 * have thrown it.
 */
export async function outcome<T>(begun: Promise<{ data?: Job }>, onTheWay?: OnTheWay): Promise<T> {
  let job = await data(begun);
  while (job.ended === undefined) {
    onTheWay?.(job);
    job = await data(
      api.GET("/api/jobs/{id}", { params: { path: { id: job.id }, query: { wait: 10 } } }),
    );
  }
  if (job.problem !== undefined) {
    const { status, type, detail } = job.problem;
    throw new Problem(status, type.replace("urn:kavrin:problem:", ""), detail);
  }
  if (job.state === "CANCELLED") throw new Problem(409, "cancelled", phrase("api.itWasCancelled"));
  return job.result as T;
}

/** The data of an answer; failures were thrown before. */
export async function data<T>(answer: Promise<{ data?: T }>): Promise<T> {
  const { data: found } = await answer;
  return found as T;
}
