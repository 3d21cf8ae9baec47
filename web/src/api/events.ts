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
  const refetch = () => void queries.invalidateQueries();
  channel.onmessage = refetch;
  navigator.locks
    .request("kavrin-events", { signal: stopped.signal }, () => {
      const stream = new EventSource("/api/events");
      stream.onmessage = (event) => {
        refetch();
        channel.postMessage(event.data);
      };
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
