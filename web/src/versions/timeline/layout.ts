import type { Incident, VersionsView } from "../../api/schema";
import { timeScale, type TimeScale } from "./time";
import { phrase } from "../../words/phrase";

export type Shape = "whole" | "openTop" | "hatched" | "broken" | "outlined";

/** One copy on the wake. */
export interface Bar {
  key: string;
  state: string;
  lane: number;
  x: number;
  height: number;
  shape: Shape;
  ours: boolean;
  /** How many neighbours it stands for. */
  copies: number;
}

export interface Lane {
  name: string;
  under: string;
  ours: boolean;
}

export interface Span {
  x0: number;
  x1: number;
}

export interface TimelineLayout {
  scale: TimeScale;
  lanes: Lane[];
  bars: Bar[];
  threads: { x: number; from: number; to: number }[];
  torn: { x: number; time: number }[];
  exposure: Span | undefined;
  unwatched: Span[];
  /** Copies that are drawn, those gathered in one counted. */
  copies: number;
  largest: number;
}

const ELSEWHERE = "ELSEWHERE";

const LANES: { kinds: string[]; name: string; ours: boolean }[] = [
  { kinds: ["LIVE"], name: phrase("versions.liveFile"), ours: false },
  { kinds: ["KEPT_BY_SAVE"], name: phrase("versions.keptByEachSave"), ours: false },
  { kinds: ["AUTOSAVE"], name: phrase("versions.programAutosaves"), ours: false },
  { kinds: ["RESCUE"], name: phrase("versions.rescueFile"), ours: false },
  { kinds: ["ASIDE"], name: phrase("versions.putAside"), ours: false },
  { kinds: ["STRAY"], name: phrase("versions.strays"), ours: false },
  { kinds: ["CAPTURE", "SECURED", "AS_WRITTEN"], name: "Kavrin", ours: true },
  { kinds: [ELSEWHERE], name: phrase("versions.elsewhere"), ours: true },
];

const SHAPES: Record<string, Shape> = {
  INTACT: "whole",
  NO_FAULT: "openTop",
  DOUBTFUL: "hatched",
  DAMAGED: "broken",
};

const time = (iso: string) => new Date(iso).getTime();

interface Mark {
  key: string;
  state: string;
  time: number;
  size: number;
  verdict: string;
  kind: string;
  path: string;
  copies?: number;
}

/** The set-up of a step stands on the wake once, with the set-up's own state. */
const isShown = (copy: { role?: string }) => copy.role !== "SETUP";

function marks(trail: VersionsView): Mark[] {
  const found: Mark[] = trail.states.flatMap((state) =>
    state.copies.filter(isShown).map((copy) => ({
      key: copy.id,
      state: state.id,
      time: time(state.workTo),
      size: copy.size,
      verdict: copy.fault ? "DAMAGED" : copy.settled ? state.verdict : "DOUBTFUL",
      kind: copy.kind,
      path: copy.path,
    })),
  );
  for (const gathered of trail.older) {
    found.push({
      key: `older-${gathered.kind}-${gathered.index}`,
      state: gathered.state,
      time: time(gathered.at),
      size: gathered.size,
      verdict: gathered.verdict,
      kind: gathered.kind,
      path: gathered.folder,
      copies: gathered.copies,
    });
  }
  const liveNow = new Set(found.filter((m) => m.kind === "LIVE").map((m) => m.time));
  const verdicts = new Map(trail.states.map((s) => [s.id, s.verdict]));
  for (const seen of trail.activity) {
    if (!liveNow.has(time(seen.modified))) {
      found.push({
        key: `live-${seen.modified}`,
        state: seen.state,
        time: time(seen.modified),
        size: seen.size,
        verdict: verdicts.get(seen.state) ?? "NOT_CHECKED",
        kind: "LIVE",
        path: trail.path,
      });
    }
  }
  for (const copy of trail.elsewhere) {
    found.push({
      key: `elsewhere-${copy.store}-${copy.object}`,
      state: verdicts.has(copy.state) ? copy.state : "",
      time: time(copy.work),
      size: copy.size,
      verdict: copy.verdict,
      kind: ELSEWHERE,
      path: `${copy.store}/`,
    });
  }
  return found;
}

function folder(path: string): string {
  return path.slice(0, path.lastIndexOf("/") + 1);
}

function threads(bars: Bar[]): TimelineLayout["threads"] {
  const byState = new Map<string, Bar[]>();
  for (const bar of bars) {
    if (bar.state !== "") byState.set(bar.state, [...(byState.get(bar.state) ?? []), bar]);
  }
  return [...byState.values()].flatMap((tied) => {
    const first = tied[0];
    if (!first) return [];
    const lanes = tied.filter((s) => s.x === first.x).map((s) => s.lane);
    const from = Math.min(...lanes);
    const to = Math.max(...lanes);
    return to > from ? [{ x: first.x, from, to }] : [];
  });
}

/** Spans between watches, seen from the scale; short breaks and folds are left out. */
function unwatched(trail: VersionsView, scale: TimeScale, now: number): Span[] {
  const spans = trail.watched
    .map((w) => ({ from: time(w.from), to: time(w.to) }))
    .sort((a, b) => a.from - b.from);
  const gaps: Span[] = [];
  let end = spans[0]?.to;
  for (const span of [...spans.slice(1), { from: now, to: now }]) {
    if (end === undefined) break;
    const isRunning = span.from === now;
    if (!isRunning && span.from - end > 6 * 60_000) {
      for (const piece of scale.pieces) {
        if (piece.kind === "fold" || piece.to <= end || piece.from >= span.from) continue;
        const x0 = scale.x(Math.max(end, piece.from));
        const x1 = scale.x(Math.min(span.from, piece.to));
        if (x1 - x0 > 3) gaps.push({ x0, x1 });
      }
    }
    end = Math.max(end, span.to);
  }
  return gaps;
}

/** Everything the wake draws, in pixels of a given width. Pure. */
export function layout(
  trail: VersionsView,
  incidents: Incident[],
  now: number,
  width: number,
): TimelineLayout {
  const all = marks(trail);
  const torn = incidents
    .filter((i) => !["closed", "asked", "meant"].includes(i.kind))
    .map((i) => time(i.to))
    .sort((p, q) => p - q);
  const scale = timeScale([...all.map((m) => m.time), ...torn], now, width);
  const used = LANES.filter(
    (lane) =>
      [phrase("versions.liveFile"), "Kavrin"].includes(lane.name) ||
      all.some((m) => lane.kinds.includes(m.kind)),
  );
  const largest = Math.max(1, ...all.map((m) => m.size));
  const bars = all.flatMap((m): Bar[] => {
    const lane = used.findIndex((l) => l.kinds.includes(m.kind));
    return lane < 0
      ? []
      : [
          {
            key: m.key,
            state: m.state,
            lane,
            x: scale.x(m.time),
            height: Math.max(0.08, m.size / largest),
            copies: m.copies ?? 1,
            shape: SHAPES[m.verdict] ?? "outlined",
            ours: used[lane]?.ours ?? false,
          },
        ];
  });
  const newest = Math.max(
    ...trail.states
      .filter((s) => s.verdict === "INTACT" || s.verdict === "NO_FAULT")
      .map((s) => time(s.workTo)),
  );
  return {
    scale,
    lanes: used.map((lane) => ({
      name: lane.name,
      ours: lane.ours,
      under: folder(all.find((m) => lane.kinds.includes(m.kind))?.path ?? ""),
    })),
    bars,
    threads: threads(bars),
    torn: torn.map((t) => ({ x: scale.x(t), time: t })),
    exposure:
      trail.exposure.quiet || !Number.isFinite(newest)
        ? undefined
        : { x0: scale.x(newest), x1: width },
    unwatched: unwatched(trail, scale, now),
    copies: all.reduce((sum, m) => sum + (m.copies ?? 1), 0),
    largest,
  };
}
