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
      // A watch that is over already needs no ending.
      const ending = id && api.DELETE("/api/watchings/{id}", { params: { path: { id } } });
      if (ending) void ending.catch(() => undefined);
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

/** What a person said of clues, by topic and value; what they said nothing of is not in it. */
export type Choices = ReadonlyMap<string, boolean>;

export const keyOf = (clue: Pick<Clue, "topic" | "value">) => `${clue.topic} ${clue.value}`;

/** A file of another folder that only its name ties to the document is left until a person says so. */
export const isTaken = (clue: Clue, choices: Choices): boolean =>
  choices.get(keyOf(clue)) ?? (clue.sure || !clue.value.startsWith(".."));

/** The profile of those clues that are taken. */
export function accepted(proposed: Proposed, choices: Choices): ProgramProfile {
  const left = new Set(proposed.clues.filter((c) => !isTaken(c, choices)).map(keyOf));
  const taken = (topic: Clue["topic"], value: string) => !left.has(keyOf({ topic, value }));
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
