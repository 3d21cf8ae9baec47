import type { LinkRow } from "../api/schema";
import { moment } from "../shared/dates";
import { phrase } from "../words/phrase";

export const keyOf = (row: { document: string; uri: string }) => `${row.document} ${row.uri}`;

export const isLost = (row: LinkRow) => row.status === "MISSING";

/** What is wrong with a link, or that nothing is. */
export function statusWords(row: LinkRow, zone: string, now: number): string {
  switch (row.status) {
    case "MISSING":
      return phrase("links.missing");
    case "OUTSIDE":
      return phrase("links.outsideWhatKavrinMayRead");
    case "CHANGED":
      return phrase("links.changed", {
        when: row.changed ? moment(row.changed, zone, now) : "",
        by: row.changedBy === "" ? "" : ` ${phrase("links.by", { changedBy: row.changedBy })}`,
      });
    default:
      return phrase("links.found");
  }
}

/** The sentence that stands first. */
export function headline(rows: LinkRow[], what: string): string {
  const lost = new Set(rows.filter(isLost).map((r) => r.file)).size;
  const changed = new Set(rows.filter((r) => r.status === "CHANGED").map((r) => r.file)).size;
  if (rows.length === 0) return phrase("links.usesNoOtherFile", { what });
  if (lost > 0)
    return phrase("links.usesMissing", {
      lost,
      what,
    });
  if (changed > 0) return phrase("links.allIsThereNotWhat", { changed });
  return phrase("links.everythingUsesIsThereAsIt", { what });
}
