import type { QueryClient } from "@tanstack/react-query";

/**
 * One event stream a browser: the tab that holds the lock listens and tells the others. Events carry
 * names only; whatever they name is fetched again.
 *
 * @returns stops listening
 */
export function listen(queries: QueryClient): () => void {
  const stopped = new AbortController();
  const channel = new BroadcastChannel("kavrin-events");
  const refetch = () =>
    void queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" });
  channel.onmessage = refetch;
  navigator.locks
    .request("kavrin-events", { signal: stopped.signal }, () => {
      const stream = new EventSource("/api/events");
      const opened = (event: MessageEvent) => {
        stream.onmessage = changed;
        // What the page asked for before the stream stood may be a moment old, and is on its way yet.
        onceIdle(queries, refetch);
        channel.postMessage(event.data);
      };
      const changed = (event: MessageEvent) => {
        refetch();
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
