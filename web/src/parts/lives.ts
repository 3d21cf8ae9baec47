import type { PartLine, PartsView } from "../api/schema";
import { phrase } from "../words/phrase";

export interface Section {
  title: string;
  parts: PartLine[];
}

const byName = (x: PartLine, y: PartLine) =>
  x.label.localeCompare(y.label, undefined, { numeric: true });

/** What has gone first, the largest on top; then what is there and not seen; then the rest. */
export function sections(view: PartsView, words: string): Section[] {
  const find = words.trim().toLowerCase();
  const fits = (p: PartLine) =>
    find === "" || `${p.label} ${p.above ?? ""}`.toLowerCase().includes(find);
  const byId = new Map(view.parts.map((p) => [p.id, p]));
  const gone = view.gone.flatMap((id) => byId.get(id) ?? []);
  const wentBefore = view.parts.filter((p) => !p.there && !gone.includes(p));
  const unseen = view.parts.filter((p) => p.there && p.why !== "");
  const there = view.parts.filter((p) => p.there && p.why === "").sort(byName);
  return [
    { title: phrase("parts.goneSince"), parts: gone },
    { title: phrase("parts.thereButNotSeen"), parts: unseen },
    { title: phrase("parts.thereNow2"), parts: there },
    { title: phrase("parts.goneBeforeThat"), parts: wentBefore.sort(byName) },
  ]
    .map((s) => ({ ...s, parts: s.parts.filter(fits) }))
    .filter((s) => s.parts.length > 0);
}

export interface Bar {
  x: number;
  width: number;
}

/** Where a part was there, on a line as wide as all states; each state has the same room. */
export function bars(part: PartLine, states: number, width: number): Bar[] {
  const one = width / Math.max(1, states);
  const found: Bar[] = [];
  for (let i = 0; i + 1 < part.stretches.length; i += 2) {
    const from = part.stretches[i] ?? 0;
    const to = part.stretches[i + 1] ?? from;
    found.push({ x: from * one, width: Math.max(1.5, (to - from + 1) * one) });
  }
  return found;
}

/** Middles of the states in which something became of it. */
export const ticks = (part: PartLine, states: number, width: number): number[] =>
  part.changes.map((at) => ((at + 0.5) * width) / Math.max(1, states));

export type Since = "hour" | "day" | "week" | "month" | "ever";

export const SINCE: Record<Since, string> = {
  hour: phrase("parts.inTheLastHour"),
  day: phrase("parts.inTheLast24Hours"),
  week: phrase("parts.inTheLast7Days"),
  month: phrase("parts.inTheLast30Days"),
  ever: phrase("parts.sinceTheFirstVersion"),
};

const HOURS: Record<Since, number | undefined> = {
  hour: 1,
  day: 24,
  week: 7 * 24,
  month: 30 * 24,
  ever: undefined,
};

/** The moment a span begins, to the minute, so that asking again asks the same. */
export function momentOf(since: Since, now: number): string | undefined {
  const hours = HOURS[since];
  if (hours === undefined) return undefined;
  const at = now - hours * 3_600_000;
  return new Date(at - (at % 60_000)).toISOString();
}
