import { useQuery } from "@tanstack/react-query";
import { api, data } from "./client";
import { useChange } from "./queries";

/** What takes longer than a moment, the newest first. */
export const useJobs = () =>
  useQuery({ queryKey: ["jobs"], queryFn: () => data(api.GET("/api/jobs")) });

/** It ends where all it did is whole. */
export const useCancelJob = () =>
  useChange((id: string) => data(api.DELETE("/api/jobs/{id}", { params: { path: { id } } })));
