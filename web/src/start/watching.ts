import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Clue, ProgramProfile, Proposed } from "../api/schema";
import { api, data } from "../api/client";

/** Watches a folder as long as the page shows it. */
export function useWatching(folder: string, document: string) {
  const { mutate: begin, ...begun } = useMutation({
    mutationFn: (path: string) =>
      data(api.POST("/api/watchings", { body: { folder: path, also: [] } })),
  });
  const id = begun.data?.folders[0] === undefined ? undefined : begun.data.id;
  useEffect(() => {
    if (folder) begin(folder);
  }, [folder, begin]);
  useEffect(
    () => () => {
      if (id) void api.DELETE("/api/watchings/{id}", { params: { path: { id } } });
    },
    [id],
  );
  const watching = useQuery({
    queryKey: ["watching", id, document],
    queryFn: () =>
      data(
        api.GET("/api/watchings/{id}", {
          params: { path: { id: id ?? "" }, query: document ? { document } : {} },
        }),
      ),
    enabled: id !== undefined,
  });
  return { view: id ? watching.data : undefined, error: begun.error ?? watching.error };
}

/** The sheet of those clues a person accepts. */
export function accepted(proposed: Proposed, refused: ReadonlySet<string>): ProgramProfile {
  const taken = (topic: Clue["topic"], value: string) => !refused.has(`${topic} ${value}`);
  const { sessionSign, writesEvery, settings, ...sheet } = proposed.sheet;
  return {
    ...sheet,
    process: taken("PROCESS", sheet.process) ? sheet.process : "",
    ...(sessionSign && taken("SIGN", sessionSign) ? { sessionSign } : {}),
    ...(writesEvery && taken("RHYTHM", writesEvery) ? { writesEvery } : {}),
    ...(settings && taken("SETTINGS", settings.file) ? { settings } : {}),
    leftovers: sheet.leftovers.filter((l) =>
      taken(l.kind as Clue["topic"], `${l.folder}/${l.pattern}`),
    ),
  };
}
