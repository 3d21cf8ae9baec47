import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data } from "./client";

export interface PackChoice {
  document: string;
  state: string;
}

/** What would go into a bundle. */
export const usePackPreview = (choices: PackChoice[]) =>
  useQuery({
    queryKey: ["pack-preview", choices],
    queryFn: () => data(api.POST("/api/bundles/preview", { body: { choices } })),
    enabled: choices.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
  });

/** The bundle that is being packed, or the last one. */
export const useBundle = () =>
  useQuery({
    queryKey: ["bundles"],
    queryFn: () => data(api.GET("/api/bundles")),
    refetchInterval: (query) => (query.state.data?.bundle?.stage === "RUNNING" ? 500 : false),
  });

export const usePack = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: {
      choices: PackChoice[];
      folder: string;
      allowed: string[];
      name: string;
      note: string;
      questions: string;
      mark: string;
    }) => data(api.POST("/api/bundles", { body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["bundles"] }),
  });
};

export const useStopPacking = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => data(api.DELETE("/api/bundles")),
    onSettled: () => queries.invalidateQueries({ queryKey: ["bundles"] }),
  });
};

/** Reads a bundle, from Kavrin or from any other writer. */
export const useBundleCheck = () =>
  useMutation({
    mutationFn: (folder: string) => data(api.POST("/api/bundles/check", { body: { folder } })),
  });

/** What a bundle holds, against the trails here. */
export const useBundleContents = () =>
  useMutation({
    mutationFn: (folder: string) => data(api.POST("/api/bundles/contents", { body: { folder } })),
  });

/** Takes a file of a bundle in as a state of a document. */
export const useTakeIn = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { folder: string; path: string; document: string }) =>
      data(api.POST("/api/bundles/take-in", { body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["trail"] }),
  });
};
