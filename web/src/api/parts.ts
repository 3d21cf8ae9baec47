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

/** What fills or once filled a spot in the picture of the newest state. */
export const useSpot = (document: string, spot: { x: number; y: number } | undefined) =>
  useQuery({
    queryKey: ["trail", document, "spot", spot?.x, spot?.y],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/spot", {
          params: { path: { id: document }, query: spot ?? { x: 0, y: 0 } },
        }),
      ),
    enabled: spot !== undefined,
  });

/** How a field of a run went over its steps; the first of its fields if none is named. */
export const useCourse = (document: string, field: number | undefined) =>
  useQuery({
    queryKey: ["trail", document, "course", field],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/course", {
          params: { path: { id: document }, query: field === undefined ? {} : { field } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
