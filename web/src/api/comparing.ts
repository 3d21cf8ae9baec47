import {
  queryOptions,
  skipToken,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect } from "react";
import { api, data, Problem } from "./client";
import type { ComparisonView, StateView } from "./schema";
import { phrase } from "../words/phrase";

const AGAIN = 700;

/** A file that is being written is at rest soon, or its versions are told anew. */
const TRIES_WHILE_WRITTEN = 30;

const isBeingWritten = (tries: number, error: Error) =>
  error instanceof Problem && error.code === "written-meanwhile" && tries < TRIES_WHILE_WRITTEN;

const wait = (ms: number, signal: AbortSignal) =>
  new Promise<void>((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      reject(new DOMException(phrase("api.askedNoMore"), "AbortError"));
    });
  });

/** Asks until it is made; large files take their time. */
async function compared(
  id: string,
  query: { a: string; b: string; tolerance?: number },
  signal: AbortSignal,
  onTheWay: (share: number) => void,
): Promise<ComparisonView> {
  for (;;) {
    const answer = await data(
      api.GET("/api/documents/{id}/comparison", { params: { path: { id }, query }, signal }),
    );
    if (answer.view) return answer.view;
    onTheWay(answer.share);
    await wait(AGAIN, signal);
  }
}

const query = (a: string, b: string, tolerance?: number) =>
  tolerance === undefined ? { a, b } : { a, b, tolerance };

const comparison = (id: string, a: string, b: string, tolerance?: number) =>
  queryOptions({
    queryKey: ["comparison", id, a, b, tolerance],
    queryFn: ({ signal, client }) =>
      compared(id, query(a, b, tolerance), signal, (share) =>
        client.setQueryData(["comparing", id, a, b, tolerance], share),
      ),
    staleTime: Infinity,
    retry: isBeingWritten,
    retryDelay: AGAIN,
  });

/** How B differs from A; without a tolerance within what the files tell apart themselves. */
export const useComparison = (id: string, a: string, b: string, tolerance?: number) =>
  useQuery({
    ...comparison(id, a, b, tolerance),
    enabled: id !== "" && a !== "" && b !== "" && a !== b,
    placeholderData: (before, asked) => (asked?.queryKey[1] === id ? before : undefined),
  });

/** How much of a comparison is made, and a way to stop making it. */
export function useComparing(id: string, a: string, b: string, tolerance?: number) {
  const queries = useQueryClient();
  const share = useQuery<number>({
    queryKey: ["comparing", id, a, b, tolerance],
    queryFn: skipToken,
  });
  const stop = useMutation({
    mutationFn: () =>
      data(
        api.DELETE("/api/documents/{id}/comparison", {
          params: { path: { id }, query: query(a, b, tolerance) },
        }),
      ),
    onMutate: () => queries.cancelQueries({ queryKey: ["comparison", id, a, b, tolerance] }),
  });
  return { share: share.data, stop: () => stop.mutate() };
}

/** Has ready what stepping on shows next, pictures too. */
export function useStepsAhead(
  id: string,
  a: string,
  next: (StateView | undefined)[],
  tolerance?: number,
) {
  const queries = useQueryClient();
  const wanted = next.flatMap((s) => (s && s.id !== a ? [s.id] : [])).join(" ");
  useEffect(() => {
    if (id === "" || a === "" || wanted === "") return;
    const waiting = setTimeout(() => {
      for (const b of wanted.split(" ")) {
        void queries
          .query(comparison(id, a, b, tolerance))
          .then((view) => fetch(pictureOf(view)))
          .catch(() => undefined);
      }
    }, 250);
    return () => clearTimeout(waiting);
  }, [queries, id, a, wanted, tolerance]);
}

const PICTURES: Record<ComparisonView["shows"], string> = {
  MODEL: "preview",
  DRAWING: "plane",
  FIELD: "plane",
  PICTURE: "picture?large=true",
  NUMBERS: "picture",
};

const pictureOf = (view: ComparisonView) =>
  `/api/contents/${view.contentB}/${PICTURES[view.shows]}`;

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
