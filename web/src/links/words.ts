import type { LinkRow } from "../api/schema";
import { moment } from "../shared/dates";

export const keyOf = (row: { document: string; uri: string }) => `${row.document} ${row.uri}`;

export const isLost = (row: LinkRow) => row.status === "MISSING";

/** What is wrong with a link, or that nothing is. */
export function statusWords(row: LinkRow, zone: string, now: number): string {
  switch (row.status) {
    case "MISSING":
      return "missing";
    case "OUTSIDE":
      return "outside what Kavrin may read";
    case "CHANGED":
      return `changed ${row.changed ? moment(row.changed, zone, now) : ""}${
        row.changedBy === "" ? "" : ` by ${row.changedBy}`
      }`;
    default:
      return "found";
  }
}

/** The sentence that stands first. */
export function headline(rows: LinkRow[], what: string): string {
  const lost = new Set(rows.filter(isLost).map((r) => r.file)).size;
  const changed = new Set(rows.filter((r) => r.status === "CHANGED").map((r) => r.file)).size;
  if (rows.length === 0) return `${what} uses no other file`;
  if (lost > 0)
    return `${lost} ${lost === 1 ? "file" : "files"} ${what} uses ${lost === 1 ? "is" : "are"} missing`;
  if (changed > 0)
    return `All is there; ${changed} ${changed === 1 ? "file is" : "files are"} not what ${changed === 1 ? "it was" : "they were"}`;
  return `Everything ${what} uses is there, as it was`;
}
