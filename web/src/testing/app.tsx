import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { http, HttpResponse } from "msw";
import { setupServer } from "msw/node";
import { BrowserRouter } from "react-router";
import { App } from "../app/App";
import { system } from "../theme/system";
import { overview, OWN_NOTIFICATIONS, PROJECT, project, SESSION } from "./fixtures";

/** What the service says to a call; a function is told what was sent, and to which address. */
type Answer = object | ((sent: unknown, to: URL) => object | Response | Promise<Response>);

/** Everything the page asked for, as "PUT /api/…", with what it sent. */
export interface Asked {
  what: string;
  sent: unknown;
}

export const asked: Asked[] = [];

/** Stands in for the service's events, which the tests send by hand. */
class Stream {
  static open: Stream[] = [];
  onmessage?: (event: MessageEvent) => void;
  constructor() {
    Stream.open.push(this);
  }
  close() {
    Stream.open = Stream.open.filter((s) => s !== this);
  }
}

/** The service says that something is new. */
export function tell(event: string) {
  Stream.open.forEach((s) => s.onmessage?.(new MessageEvent("message", { data: event })));
}

export const service = setupServer(
  http.all("*/api/*", async ({ request }) => {
    const to = new URL(request.url);
    const path = to.pathname;
    const sent: unknown =
      request.method === "GET" ? undefined : await request.json().catch(() => undefined);
    asked.push({ what: `${request.method} ${path}`, sent });
    const answer = answers.get(`${request.method} ${path}`) ?? answers.get(path);
    const said =
      typeof answer === "function"
        ? await (answer as (s: unknown, to: URL) => Promise<object>)(sent, to)
        : answer;
    if (said instanceof Response) return said;
    return said === undefined
      ? problem(404, "absent", `${path} is not known to the test.`)
      : HttpResponse.json(said);
  }),
);

/** An answer as RFC 9457 has it. */
export function problem(status: number, type: string, detail: string): Response {
  return HttpResponse.json(
    { type: `urn:kavrin:problem:${type}`, title: "No", detail },
    { status, headers: { "Content-Type": "application/problem+json" } },
  );
}

const answers = new Map<string, Answer>();

/** Says what the service answers from now on, by path or by method and path. */
export function answering(more: Record<string, Answer>) {
  for (const [what, answer] of Object.entries(more)) answers.set(what, answer);
}

/** Opens the page at an address; what is not said otherwise is one quiet project. */
export function open(address: string) {
  window.history.replaceState(null, "", address);
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const user = userEvent.setup();
  const page = render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );
  return { user, client: queries, ...page };
}

/** Puts the world back as it was. */
export function begin() {
  asked.length = 0;
  answers.clear();
  sessionStorage.clear();
  localStorage.clear();
  answering({
    "/api/session": SESSION,
    "/api/overview": overview(project()),
    "/api/losses": [],
    "/api/messages": [],
    "/api/jobs": [],
    "/api/session/notifications": OWN_NOTIFICATIONS,
    "/api/notifications": { telling: { page: true }, needsPage: true },
    [`/api/projects/${PROJECT.id}`]: PROJECT,
  });
}

Object.assign(globalThis, {
  EventSource: Stream,
  BroadcastChannel: class {
    postMessage() {
      return undefined;
    }
    close() {
      return undefined;
    }
  },
});
Object.defineProperty(navigator, "locks", {
  configurable: true,
  value: { request: (_: string, __: object, run: () => Promise<void>) => run() },
});
