import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data, outcome } from "./client";
import type { RehearsalView, WayView } from "./schema";

export type Way = WayView["way"];

/** What was rehearsed with a document, and a rehearsal that goes on. */
export const useRecoveryTests = (document: string) =>
  useQuery({
    queryKey: ["rehearsals", document],
    queryFn: () =>
      data(api.GET("/api/documents/{id}/recovery-tests", { params: { path: { id: document } } })),
    enabled: document !== "",
    refetchInterval: (query) => (query.state.data?.going ? 2000 : false),
  });

function useRunRecoveryTest<T, R>(run: (what: T) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: run,
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ["rehearsals"] }),
        queries.invalidateQueries({ queryKey: ["overview"] }),
      ]),
  });
}

/** A crash on a copy, with the stand-in. */
export const useAttendedTest = (document: string) =>
  useRunRecoveryTest((way: Way) =>
    outcome<RehearsalView>(
      api.POST("/api/documents/{id}/recovery-tests", {
        params: { path: { id: document } },
        body: { way },
      }),
    ),
  );

/** One with the person's own program: begin it, or end it when the program is gone. */
export const useGuided = (document: string) => {
  const path = { params: { path: { id: document } } };
  return {
    begin: useRunRecoveryTest(() =>
      data(api.POST("/api/documents/{id}/recovery-tests/guided", path)),
    ),
    end: useRunRecoveryTest(() =>
      data(api.POST("/api/documents/{id}/recovery-tests/guided/end", path)),
    ),
  };
};

/** What is done unattended every so many days, now. */
export const useUnattended = (document: string) =>
  useRunRecoveryTest(() =>
    data(
      api.POST("/api/documents/{id}/recovery-tests/unattended", {
        params: { path: { id: document } },
      }),
    ),
  );
