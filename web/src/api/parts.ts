import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, data } from "./client";

/** The lives of a document's parts; gone is what went since the moment. */
export const useParts = (document: string, since: string | undefined) =>
  useQuery({
    queryKey: ["trail", document, "parts", since],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/parts", {
          params: { path: { id: document }, query: since === undefined ? {} : { since } },
        }),
      ),
    enabled: document !== "",
    placeholderData: keepPreviousData,
  });

/** All that became of one part. */
export const usePart = (document: string, part: number | undefined) =>
  useQuery({
    queryKey: ["trail", document, "parts", "one", part],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/parts/{part}", {
          params: { path: { id: document, part: part ?? 0 } },
        }),
      ),
    enabled: document !== "" && part !== undefined,
  });

/** Parts of all projects by name. */
export const useFoundParts = (name: string) =>
  useQuery({
    queryKey: ["trail", "parts", name],
    queryFn: () => data(api.GET("/api/parts", { params: { query: { name } } })),
    enabled: name.trim().length > 1,
    placeholderData: keepPreviousData,
  });
