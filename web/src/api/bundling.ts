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
export const useImportFile = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { folder: string; path: string; document: string }) =>
      data(api.POST("/api/bundles/take-in", { body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["trail"] }),
  });
};

/** What a final archive of a project would hold. */
export const useArchivePreview = (project: string, enabled: boolean) =>
  useQuery({
    queryKey: ["archive-preview", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/archive", { params: { path: { id: project } } })),
    enabled: enabled && project !== "",
    retry: false,
  });

export const useArchive = (project: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { folder: string; allowed: string[]; note: string }) =>
      data(api.POST("/api/projects/{id}/archive", { params: { path: { id: project } }, body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["bundles"] }),
  });
};

/** How many files an archive in a folder holds; none for a bag that is no archive. */
export const useArchiveHolds = () =>
  useMutation({
    mutationFn: (folder: string) =>
      data(api.GET("/api/archives", { params: { query: { folder } } })),
  });

/** Brings every file of an archive back under its own name. */
export const useBringArchiveBack = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { folder: string; into: string }) =>
      data(api.POST("/api/archives/bring-back", { body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ["bundles"] }),
  });
};

/** Formats a state can be written in. */
export const useFormats = (document: string, state: string, enabled: boolean) =>
  useQuery({
    queryKey: ["formats", document, state],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/versions/{state}/formats", {
          params: { path: { id: document, state } },
        }),
      ),
    enabled,
    retry: false,
  });

export const useExport = (document: string, state: string) =>
  useMutation({
    mutationFn: (body: { ending: string; folder: string }) =>
      data(
        api.POST("/api/documents/{id}/versions/{state}/formats", {
          params: { path: { id: document, state } },
          body,
        }),
      ),
  });
