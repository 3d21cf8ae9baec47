import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { given } from "../shared/words";
import { api, data, outcome } from "./client";
import type { GroupView, ReceiptView } from "./schema";

type Mode = "REPLACE" | "BESIDE" | "NEXT" | "BRANCH";

/** Writes a version with parts in it to the side and proves it; nothing is touched yet. */
export const usePartsPreview = (
  document: string,
  picks: { state: string; parts: string[] }[],
  open: boolean,
) =>
  useQuery({
    queryKey: ["parts-preview", document, picks],
    queryFn: () =>
      data(
        api.POST("/api/documents/{id}/part-restores/preview", {
          params: { path: { id: document } },
          body: { picks },
        }),
      ),
    enabled: open && picks.length > 0,
    retry: false,
    gcTime: 0,
    staleTime: Infinity,
  });

/** The file of today against that version. */
export const useComposed = (document: string, version: string | undefined) =>
  useQuery({
    queryKey: ["composed", document, version],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/part-restores/{version}/comparison", {
          params: { path: { id: document, version: version ?? "" } },
        }),
      ),
    enabled: version !== undefined,
    staleTime: Infinity,
    retry: false,
  });

/** Puts that version in its place. */
export const usePartsRestore = (document: string) =>
  useMutation({
    mutationFn: (body: { id: string; mode: Mode }) =>
      outcome<ReceiptView>(
        api.POST("/api/documents/{id}/part-restores", {
          params: { path: { id: document } },
          body,
        }),
      ),
  });

/** Lays a state out to be opened in a person's own program. */
export const useTrial = (document: string) =>
  useMutation({
    mutationFn: (state: string) =>
      data(
        api.POST("/api/documents/{id}/trials", {
          params: { path: { id: document } },
          body: { state },
        }),
      ),
  });

export interface AsOf {
  at?: string | undefined;
  incident?: string | undefined;
}

/** For each document of a project the state it would go back to. */
export const useAsOf = (project: string, asOf: AsOf, enabled: boolean) =>
  useQuery({
    queryKey: ["as-of", project, asOf],
    queryFn: () =>
      data(
        api.GET("/api/projects/{id}/as-of", {
          params: { path: { id: project }, query: given({ ...asOf }) },
        }),
      ),
    enabled: enabled && project !== "",
  });

/** A state with what it leaned on when it was made. */
export const useWithLinks = (document: string, state: string) =>
  useQuery({
    queryKey: ["as-of", document, state],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/versions/{state}/as-of", {
          params: { path: { id: document, state } },
        }),
      ),
    enabled: document !== "" && state !== "",
  });

export interface Wish {
  document: string;
  state: string;
  mode: Mode;
}

/** What restoring several documents together will do. */
export const useGroupPreview = (project: string, wishes: Wish[]) =>
  useQuery({
    queryKey: ["group-preview", project, wishes],
    queryFn: () =>
      data(
        api.POST("/api/projects/{id}/group-restores/preview", {
          params: { path: { id: project } },
          body: { wishes },
        }),
      ),
    enabled: wishes.length > 0,
    retry: false,
    staleTime: 0,
    placeholderData: keepPreviousData,
  });

/** What was restored together, newest first. */
export const useGroups = (project: string) =>
  useQuery({
    queryKey: ["groups", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/group-restores", { params: { path: { id: project } } })),
    enabled: project !== "",
  });

export const useGroupRestore = (project: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { what: string; wishes: Wish[]; digest: string }) =>
      outcome<GroupView>(
        api.POST("/api/projects/{id}/group-restores", {
          params: { path: { id: project } },
          body,
        }),
      ),
    onSettled: () => queries.invalidateQueries(),
  });
};

export const useGroupUndo = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      outcome<GroupView>(api.POST("/api/group-restores/{id}/undo", { params: { path: { id } } })),
    onSettled: () => queries.invalidateQueries(),
  });
};

/** Runs a person's own command on a copy of a state. */
export const useCommand = (document: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { state: string; command: string }) =>
      data(
        api.POST("/api/documents/{id}/trials/command", {
          params: { path: { id: document } },
          body,
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["trail"] }),
  });
};

/** Trial copies that stand, and clearing them away. */
export const useTrials = (document: string) => {
  const queries = useQueryClient();
  const path = { params: { path: { id: document } } };
  return {
    standing: useQuery({
      queryKey: ["trials", document],
      queryFn: () => data(api.GET("/api/documents/{id}/trials", path)),
    }),
    clear: useMutation({
      mutationFn: () => data(api.DELETE("/api/documents/{id}/trials", path)),
      onSuccess: () => queries.invalidateQueries({ queryKey: ["trials"] }),
    }),
  };
};
