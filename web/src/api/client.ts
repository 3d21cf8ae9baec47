import createClient, { type Middleware } from "openapi-fetch";
import type { paths } from "./schema";

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
      body.detail ?? body.title ?? `The server answered ${response.status}.`,
    );
  },
  onError() {
    return new Problem(0, "unreachable", "Kavrin does not answer. Is it still running?");
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(guard);

/** The data of an answer; failures were thrown before. */
export async function data<T>(answer: Promise<{ data?: T }>): Promise<T> {
  const { data: found } = await answer;
  return found as T;
}
