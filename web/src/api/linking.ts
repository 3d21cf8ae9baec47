import { useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data, outcome } from "./client";
import type { ReceiptView } from "./schema";

/** What the documents of a project lean on. */
export const useLinks = (project: string) =>
  useQuery({
    queryKey: ["links", project],
    queryFn: () => data(api.GET("/api/projects/{id}/links", { params: { path: { id: project } } })),
    enabled: project !== "",
  });

/** Files that may serve for one that is not there. */
export const useCandidates = (document: string, uri: string, within: string, enabled: boolean) =>
  useQuery({
    queryKey: ["link-candidates", document, uri, within],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/link-candidates", {
          params: {
            path: { id: document },
            query: within === "" ? { uri } : { uri, in: within },
          },
        }),
      ),
    enabled,
    retry: false,
    staleTime: 30_000,
  });

export interface Choice {
  document: string;
  uri: string;
  file: string;
}

/** What lay in one folder lies in another now. */
export const useLinkRule = (project: string) =>
  useMutation({
    mutationFn: (body: { from: string; to: string }) =>
      data(api.POST("/api/projects/{id}/links/rule", { params: { path: { id: project } }, body })),
  });

function byDocument(choices: Choice[]): [string, Choice[]][] {
  const all = new Map<string, Choice[]>();
  for (const one of choices) all.set(one.document, [...(all.get(one.document) ?? []), one]);
  return [...all];
}

/** The documents written to the side with other names in them. */
export const useRelinkPreviews = (choices: Choice[], enabled: boolean) =>
  useQueries({
    queries: byDocument(choices).map(([document, wanted]) => ({
      queryKey: ["relink", document, wanted],
      queryFn: async () => ({
        document,
        ...(await data(
          api.POST("/api/documents/{id}/relinks/preview", {
            params: { path: { id: document } },
            body: { choices: wanted.map(({ uri, file }) => ({ uri, file })) },
          }),
        )),
      }),
      enabled,
      retry: false,
      staleTime: Infinity,
    })),
  });

/** Puts those versions in place, one after the other; each can be undone by its receipt. */
export const useRelink = (mode: "REPLACE" | "NEXT" | "BESIDE") => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (versions: { document: string; id: string }[]) => {
      const receipts = [];
      for (const { document, id } of versions) {
        receipts.push(
          await outcome<ReceiptView>(
            api.POST("/api/documents/{id}/part-restores", {
              params: { path: { id: document } },
              body: { id, mode },
            }),
          ),
        );
      }
      return receipts;
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ["links"] }),
  });
};

/** Brings the held copy of a linked file back to where it was. */
export const useBringBack = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ linked, state }: { linked: string; state: string }) => {
      const at = { params: { path: { id: linked } } };
      const preview = await data(
        api.POST("/api/documents/{id}/restores/preview", {
          ...at,
          body: { state, mode: "REPLACE" },
        }),
      );
      return outcome<ReceiptView>(
        api.POST("/api/documents/{id}/restores", {
          ...at,
          body: { state, mode: "REPLACE", digest: preview.digest },
        }),
      );
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ["links"] }),
  });
};
