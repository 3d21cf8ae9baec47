import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data, outcome } from "./client";
import { useChange } from "./queries";
import type { ClearOut, ClearOutView, LimitView, Project, SharedSheet } from "./schema";

/** What came of clearing leftovers away. */
interface LeftoversCleared {
  cleared: number;
  leftAlone: { path: string; words: string }[];
}

/** What taking a sheet from elsewhere would change. */
export const useProfileDifference = (project: string, shared: SharedSheet, confirmed: string[]) =>
  useQuery({
    queryKey: ["sheet", project, shared, confirmed],
    queryFn: () =>
      data(
        api.POST("/api/projects/{id}/profile/difference", {
          params: { path: { id: project } },
          body: { shared, confirmed },
        }),
      ),
    retry: false,
    placeholderData: keepPreviousData,
  });

export const useImportProfile = (project: Project) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { shared: SharedSheet; confirmed: string[] }) =>
      data(
        api.PUT("/api/projects/{id}/profile", {
          params: {
            path: { id: project.id },
            header: { "If-Match": String(project.version) },
          },
          body,
        }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  });
};

/** Looking everywhere at once, and what that found. */
export function useSearch() {
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries();
  return {
    search: useQuery({ queryKey: ["search"], queryFn: () => data(api.GET("/api/search")) }),
    begin: useMutation({ mutationFn: () => data(api.POST("/api/search")), onSuccess }),
    cancel: useMutation({ mutationFn: () => data(api.DELETE("/api/search")), onSuccess }),
    decide: useMutation({
      mutationFn: ({ id, accepted }: { id: string; accepted: boolean }) =>
        data(api.POST("/api/strays/{id}", { params: { path: { id } }, body: { accepted } })),
      onSuccess,
    }),
    takeIn: useMutation({
      mutationFn: (id: string) =>
        outcome(api.POST("/api/strays/{id}/take-in", { params: { path: { id } } })),
      onSuccess,
    }),
    lookIn: useMutation({
      mutationFn: (path: string) => data(api.POST("/api/search/folders", { body: { path } })),
      onSuccess,
    }),
  };
}

/** Being rid of copies: shown first, then done. */
export function useClearOut(project: string, wish: ClearOut, enabled: boolean) {
  const queries = useQueryClient();
  const params = { path: { id: project } };
  return {
    preview: useQuery({
      queryKey: ["clear-out", project, wish],
      queryFn: () =>
        data(api.POST("/api/projects/{id}/clear-out/preview", { params, body: { wish } })),
      enabled,
      placeholderData: keepPreviousData,
    }),
    apply: useMutation({
      mutationFn: (body: { wish: ClearOut; digest: string }) =>
        outcome<ClearOutView>(api.POST("/api/projects/{id}/clear-out", { params, body })),
      onSuccess: () => queries.invalidateQueries(),
    }),
  };
}

/** What all backups on a disk may take together: shown first, then held. */
export function useRoomLimit(disk: string, bytes: number, enabled: boolean) {
  const queries = useQueryClient();
  return {
    preview: useQuery({
      queryKey: ["room-limit", disk, bytes],
      queryFn: () => data(api.POST("/api/room/limit/preview", { body: { disk, bytes } })),
      enabled,
      placeholderData: keepPreviousData,
    }),
    apply: useMutation({
      mutationFn: (digest: string) =>
        outcome<LimitView>(api.PUT("/api/room/limit", { body: { disk, bytes, digest } })),
      onSuccess: () => queries.invalidateQueries(),
    }),
  };
}

/** A program's own copies, taken away by name only. */
export function useLeftovers(project: string, enabled: boolean) {
  const queries = useQueryClient();
  const params = { path: { id: project } };
  return {
    leftovers: useQuery({
      queryKey: ["leftovers", project],
      queryFn: () => data(api.GET("/api/projects/{id}/leftovers", { params })),
      enabled,
    }),
    clear: useMutation({
      mutationFn: (files: { path: string; modified: string }[]) =>
        outcome<LeftoversCleared>(
          api.POST("/api/projects/{id}/leftovers", { params, body: { files } }),
        ),
      onSuccess: () => queries.invalidateQueries(),
    }),
  };
}

/** Who has to do with the file, as far as the system tells. */
export const useWho = (document: string) =>
  useQuery({
    queryKey: ["who", document],
    queryFn: () => data(api.GET("/api/documents/{id}/who", { params: { path: { id: document } } })),
    enabled: document !== "",
    staleTime: 10_000,
  });

/** Reads all copies of a state again. */
export const useRecheck = (document: string) =>
  useChange((state: string) =>
    data(
      api.POST("/api/documents/{id}/recheck", {
        params: { path: { id: document } },
        body: { state },
      }),
    ),
  );
