import { useQueries, useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { api, data } from "./client";
import type { StateView, VersionsView } from "./schema";

/** States in one answer of the service. */
const PAGE = 400;

const page = (document: string, number: number) => ({
  queryKey: ["trail", document, "states", number],
  queryFn: () =>
    data(
      api.GET("/api/documents/{id}/versions/page", {
        params: { path: { id: document }, query: { page: number } },
      }),
    ),
});

const pages = (results: { data: StateView[] | undefined }[]) => results.map((r) => r.data);

const NOTHING = { of: "", pages: [] };

export interface States {
  /** All there are, newest work first; those not asked for yet are missing. */
  list: (StateView | undefined)[];
  /** How many are here. */
  here: number;
  /** Asks for the states around a place in the list. */
  want: (index: number) => void;
  /** Asks for all. */
  wantAll: () => void;
}

/** The states of a trail: the newest come with it, older ones in pages when they are looked at. */
export function useVersionPages(document: string, trail: VersionsView | undefined): States {
  const [wanted, setWanted] = useState<{ of: string; pages: number[] }>(NOTHING);
  const total = trail?.count.states ?? 0;
  const asked = (wanted.of === document ? wanted.pages : []).filter((n) => n * PAGE < total);
  const older = useQueries({ queries: asked.map((n) => page(document, n)), combine: pages });
  const list = useMemo(() => {
    const all = new Array<StateView | undefined>(total).fill(undefined);
    const put = (from: number, states: StateView[]) =>
      states.slice(0, total - from).forEach((s, i) => (all[from + i] = s));
    older.forEach((states, i) => put((asked[i] ?? 0) * PAGE, states ?? []));
    put(0, trail?.states ?? []);
    return all;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- asked goes with older
  }, [trail, total, older]);
  const add = useCallback(
    (numbers: number[]) =>
      setWanted((before) => {
        const pages = before.of === document ? before.pages : [];
        const missing = numbers.filter((n) => n > 0 && !pages.includes(n));
        return missing.length === 0 ? before : { of: document, pages: [...pages, ...missing] };
      }),
    [document],
  );
  const want = useCallback((index: number) => add([Math.floor(index / PAGE)]), [add]);
  const wantAll = useCallback(
    () => add(Array.from({ length: Math.ceil(total / PAGE) }, (_, n) => n)),
    [add, total],
  );
  return { list, here: list.filter(Boolean).length, want, wantAll };
}

/** One state, from the list if it is there. */
export function useVersion(document: string, id: string, states: States): StateView | undefined {
  const there = states.list.find((s) => s?.id === id);
  const asked = useQuery({
    queryKey: ["trail", document, "state", id],
    queryFn: () =>
      data(
        api.GET("/api/documents/{id}/versions/{state}", {
          params: { path: { id: document, state: id } },
        }),
      ),
    enabled: document !== "" && id !== "" && states.list.length > 0 && !there,
  });
  return there ?? asked.data;
}
