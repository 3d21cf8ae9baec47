import { useMutation, useQuery } from "@tanstack/react-query";
import { api, data } from "./client";

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
      data(
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
