import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data, type OnTheWay, outcome } from "./client";
import type { components } from "./schema";

type Schemas = components["schemas"];
export type ElsewhereView = Schemas["ElsewhereView"];
export type StoreView = Schemas["StoreView"];
export type DocumentCoverage = Schemas["DocumentCoverage"];
export type PlaceRequest = Schemas["PlaceRequest"];
export type UseRequest = Schemas["UseRequest"];
export type StoredProject = Schemas["StoredProject"];
export type StoredVersion = Schemas["StoredVersion"];

/** What came of bringing a project back: the result of its job. */
export interface CameBack {
  backups: number;
  bytes: number;
  files: string[];
  left: string[];
  failed: string[];
}

const keyOf = (project: string) => ["elsewhere", project];

/** Copies elsewhere of a project, as it stands; looked at again while one looks. */
export const useElsewhere = (project: string) =>
  useQuery({
    queryKey: keyOf(project),
    queryFn: () =>
      data(api.GET("/api/projects/{id}/elsewhere", { params: { path: { id: project } } })),
    enabled: project !== "",
    refetchInterval: 3000,
  });

/** Names of the key files that were laid down on the machine. */
export const useKeyNames = () =>
  useQuery({ queryKey: ["keys"], queryFn: () => data(api.GET("/api/keys")) });

/** The store Kavrin was started from, if it was; nothing secret of it. */
export const useStartedFrom = () =>
  useQuery({
    queryKey: ["started-from"],
    queryFn: async () => {
      const { data: said } = await api.GET("/api/stores/from");
      return said ?? null;
    },
    staleTime: Infinity,
  });

function useChanged<V>(project: string, change: (variables: V) => Promise<ElsewhereView>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (now) => queries.setQueryData(keyOf(project), now),
  });
}

export const useAddStore = (project: string) =>
  useChanged(project, (body: { place: PlaceRequest; use: UseRequest }) =>
    data(api.POST("/api/projects/{id}/stores", { params: { path: { id: project } }, body })),
  );

export const useChangeStore = (project: string) =>
  useChanged(project, ({ store, use }: { store: string; use: UseRequest }) =>
    data(
      api.PUT("/api/projects/{id}/stores/{store}", {
        params: { path: { id: project, store } },
        body: use,
      }),
    ),
  );

export const useLeaveStore = (project: string) =>
  useChanged(project, (store: string) =>
    data(
      api.DELETE("/api/projects/{id}/stores/{store}", {
        params: { path: { id: project, store } },
      }),
    ),
  );

export const useRule = (project: string) =>
  useChanged(project, (rule: Schemas["RuleRequest"]) =>
    data(
      api.PUT("/api/projects/{id}/coverage-rule", {
        params: { path: { id: project } },
        body: rule,
      }),
    ),
  );

/** Asks a store which projects it has. */
export const useLookIntoStore = () =>
  useMutation({
    mutationFn: (place: PlaceRequest) => data(api.POST("/api/stores/look", { body: place })),
  });

export const useBringBack = (onTheWay: OnTheWay) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["StoreBringBackRequest"]): Promise<CameBack> =>
      outcome(api.POST("/api/stores/bring-back", { body }), onTheWay),
    onSettled: () => queries.invalidateQueries(),
  });
};

/** Versions of a document that only a store still has. */
export const useStoredVersions = (document: string) =>
  useQuery({
    queryKey: ["stored-versions", document],
    queryFn: () =>
      data(api.GET("/api/documents/{id}/stored-versions", { params: { path: { id: document } } })),
  });

/** Fetches one back among the others; done once it lies in the backup folder. */
export const useFetchStored = (document: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["FetchRequest"]) =>
      outcome(
        api.POST("/api/documents/{id}/stored-versions/fetch", {
          params: { path: { id: document } },
          body,
        }),
      ),
    onSettled: () => queries.invalidateQueries(),
  });
};
