import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data, type OnTheWay, outcome } from "./client";
import type { components } from "./schema";

export type CompactingStanding = components["schemas"]["Compacted"];

/** That it would pay, as found out by itself. */
export type CompactingProposal = components["schemas"]["CompactingProposal"];

/** What compacting would come to: the result of its job. */
export interface CompactingEstimate {
  versions: number;
  measured: number;
  before: number;
  after: number;
  /** ISO 8601. */
  time: string;
}

/** What came of compacting: the result of its job. */
export interface CompactedNow {
  versions: number;
  before: number;
  after: number;
}

/** How a project's older versions stand. */
export const useCompacting = (project: string) =>
  useQuery({
    queryKey: ["compacting", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/compacting", { params: { path: { id: project } } })),
    enabled: project !== "",
  });

/** Reads some of its own versions and tells; nothing is written. */
export const useMeasureCompacting = (project: string) =>
  useMutation({
    mutationFn: (query: { newest: number; every: number }) =>
      outcome<CompactingEstimate>(
        api.POST("/api/projects/{id}/compacting/measure", {
          params: { path: { id: project }, query },
        }),
      ),
  });

/** All that the plan wants compacted, now. */
export function useCompactNow(project: string, onTheWay: OnTheWay) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () =>
      outcome<CompactedNow>(
        api.POST("/api/projects/{id}/compacting/now", { params: { path: { id: project } } }),
        onTheWay,
      ),
    onSettled: () => queries.invalidateQueries(),
  });
}
