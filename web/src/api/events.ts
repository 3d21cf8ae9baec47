import type { QueryClient, QueryKey } from "@tanstack/react-query";

/** Never asked again for an event: who one is, and what an unchanging content shows. */
const LASTING = new Set(["session", "kinds", "names", "comparison", "plane", "defaults"]);

/** Views of all projects, which show something of each document. */
const OF_ALL = new Set(["overview", "places", "losses", "messages", "rehearsals", "pack-preview"]);

/** What is asked again for a topic that is of no single document or project. */
const TOPICS: Record<string, string[]> = {
  standing: ["overview", "places", "project"],
  message: ["messages"],
  telling: ["telling", "messages"],
  search: ["search"],
  loss: ["losses", "overview"],
  program: ["program", "sheet", "matches", "advice", "figures", "price", "overview"],
  bundles: ["bundles"],
  watching: ["watching"],
  jobs: ["jobs", "bundles", "search"],
};

/**
 * Which questions an event concerns.
 *
 * @param event "document ID PROJECT REVISION", "standing ID PROJECT" for how a document stands now,
 *     "project ID" for its plan or an incident, which every document of it may show, a topic, or
 *     "everything"
 */
export function concerns(event: string, key: QueryKey): boolean {
  const [what, ...ids] = event.split(" ");
  const asked = String(key[0]);
  if (what === "project") return !LASTING.has(asked);
  if (what === "document" || ids.length > 0) {
    const named = ids.slice(0, 2);
    const ofAll = OF_ALL.has(asked) || (asked === "trail" && key[1] === "parts");
    return !LASTING.has(asked) && (ofAll || key.some((part) => named.includes(String(part))));
  }
  const topics = TOPICS[what ?? ""];
  return topics === undefined ? asked !== "session" : topics.includes(asked);
}

/**
 * One event stream a browser: the tab that holds the lock listens and tells the others. Events carry
 * names only; what they name is fetched again, and nothing else.
 *
 * @returns stops listening
 */
export function listen(queries: QueryClient): () => void {
  const stopped = new AbortController();
  const channel = new BroadcastChannel("kavrin-events");
  const refetch = (event: string) =>
    void queries.invalidateQueries({ predicate: (query) => concerns(event, query.queryKey) });
  channel.onmessage = (event: MessageEvent) => refetch(String(event.data));
  navigator.locks
    .request("kavrin-events", { signal: stopped.signal }, () => {
      const stream = new EventSource("/api/events");
      const opened = (event: MessageEvent) => {
        stream.onmessage = changed;
        // What the page asked for before the stream stood may be a moment old, and is on its way yet.
        onceIdle(queries, () => refetch("everything"));
        channel.postMessage(event.data);
      };
      const changed = (event: MessageEvent) => {
        refetch(String(event.data));
        channel.postMessage(event.data);
      };
      stream.onmessage = opened;
      return new Promise<void>((resolve) => {
        stopped.signal.addEventListener("abort", () => {
          stream.close();
          resolve();
        });
      });
    })
    .catch((reason: unknown) => {
      if (!stopped.signal.aborted) throw reason;
    });
  return () => {
    stopped.abort();
    channel.close();
  };
}

function onceIdle(queries: QueryClient, then: () => void) {
  if (queries.isFetching() === 0) {
    then();
    return;
  }
  const stop = queries.getQueryCache().subscribe(() => {
    if (queries.isFetching() > 0) return;
    stop();
    then();
  });
}
