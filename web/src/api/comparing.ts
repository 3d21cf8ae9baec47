import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { api, data } from "./client";
import type { ComparisonView } from "./schema";

const AGAIN = 700;

const wait = (ms: number, signal: AbortSignal) =>
  new Promise<void>((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      reject(new DOMException("asked no more", "AbortError"));
    });
  });

/** Asks until it is made; large files take their time. */
async function compared(
  id: string,
  query: { a: string; b: string; tolerance?: number },
  signal: AbortSignal,
): Promise<ComparisonView> {
  for (;;) {
    const answer = await data(
      api.GET("/api/documents/{id}/comparison", { params: { path: { id }, query }, signal }),
    );
    if (answer.view) return answer.view;
    await wait(AGAIN, signal);
  }
}

/** How B differs from A; without a tolerance within what the files tell apart themselves. */
export const useComparison = (id: string, a: string, b: string, tolerance?: number) =>
  useQuery({
    queryKey: ["comparison", id, a, b, tolerance],
    queryFn: ({ signal }) =>
      compared(id, tolerance === undefined ? { a, b } : { a, b, tolerance }, signal),
    enabled: id !== "" && a !== "" && b !== "" && a !== b,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** Holds a file from anywhere against state A. */
export const useDropped = (id: string) =>
  useMutation({
    mutationFn: ({ a, file }: { a: string; file: File }) =>
      data(
        api.POST("/api/documents/{id}/comparison/dropped", {
          params: { path: { id }, query: { a, name: file.name } },
          headers: { "Content-Type": "application/octet-stream" },
          body: file as unknown as string,
          bodySerializer: (body: unknown) => body as BodyInit,
        } as never),
      ) as Promise<import("./schema").DroppedView>,
  });

/** What can be done with each kind of file. */
export const useKinds = (open: boolean) =>
  useQuery({
    queryKey: ["kinds"],
    queryFn: () => data(api.GET("/api/kinds")),
    enabled: open,
    staleTime: Infinity,
  });

/** Where a comparison is had as a file. */
export const exportAddress = (
  id: string,
  a: string,
  b: string,
  as: "JSON" | "CSV",
  tolerance?: number,
) =>
  `/api/documents/${id}/comparison/export?${new URLSearchParams({
    a,
    b,
    as,
    ...(tolerance === undefined ? {} : { tolerance: String(tolerance) }),
  }).toString()}`;
