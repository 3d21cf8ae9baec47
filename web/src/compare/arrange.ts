import type { PartChange } from "../api/schema";

export type Outcome = PartChange["outcome"];
export type Order = "weight" | "name" | "place";

export interface Wanted {
  outcomes: ReadonlySet<Outcome>;
  words: string;
  order: Order;
}

/** Parts under the thing they belong to; without a name where order is not by place. */
export interface Group {
  above: string;
  parts: PartChange[];
}

/** A part is itself in B, or what it was in A. */
export const keyOf = (part: PartChange) => part.b ?? part.a ?? "";

const above = (part: PartChange) => keyOf(part).replace(/\/?[^/]*$/, "");

const byName = (x: PartChange, y: PartChange) =>
  x.label.localeCompare(y.label, undefined, { numeric: true });

/** The parts a person asked for, in their order. */
export function arrange(changes: PartChange[], wanted: Wanted): Group[] {
  const words = wanted.words.trim().toLowerCase();
  const shown = changes.filter(
    (c) =>
      wanted.outcomes.has(c.outcome) &&
      (words === "" ||
        `${c.label} ${c.a ?? ""} ${c.b ?? ""} ${c.words}`.toLowerCase().includes(words)),
  );
  if (wanted.order === "weight") return shown.length === 0 ? [] : [{ above: "", parts: shown }];
  const sorted = [...shown].sort(byName);
  if (wanted.order === "name") return sorted.length === 0 ? [] : [{ above: "", parts: sorted }];
  const groups = new Map<string, PartChange[]>();
  for (const part of sorted) groups.set(above(part), [...(groups.get(above(part)) ?? []), part]);
  return [...groups]
    .sort(([x], [y]) => x.localeCompare(y, undefined, { numeric: true }))
    .map(([name, parts]) => ({ above: name, parts }));
}
