/**
 * Where a moment stands on the wake. The last hour gets two fifths of the width; quiet hours are
 * folded to a narrow strip. Pure.
 */
export interface Piece {
  from: number;
  to: number;
  x0: number;
  x1: number;
  kind: "work" | "fold" | "lastHour";
}

export interface TimeScale {
  pieces: Piece[];
  width: number;
  x: (time: number) => number;
}

const HOUR = 3_600_000;
const QUIET = 2.5 * HOUR;
const FOLD = 14;
const LAST_HOUR_SHARE = 0.4;
const MARGIN = 5 * 60_000;

interface Stretch {
  from: number;
  to: number;
}

/** Stretches of work: moments closer than a few hours belong together. */
export function stretches(times: number[], until: number): Stretch[] {
  const sorted = times.filter((t) => t <= until).sort((a, b) => a - b);
  const found: Stretch[] = [];
  for (const t of sorted) {
    const last = found.at(-1);
    if (last && t - last.to < QUIET) last.to = t;
    else found.push({ from: t, to: t });
  }
  return found;
}

export function timeScale(times: number[], now: number, width: number): TimeScale {
  const lastHour = now - HOUR;
  const early = stretches(
    times.filter((t) => t < lastHour),
    lastHour,
  ).map((s) => ({ from: s.from - MARGIN, to: Math.min(s.to + MARGIN, lastHour) }));
  const lastOne = early.at(-1);
  if (lastOne && lastHour - lastOne.to < QUIET) lastOne.to = lastHour;

  const lastWidth = early.length === 0 ? width : width * LAST_HOUR_SHARE;
  const endsInFold = lastOne !== undefined && lastOne.to < lastHour;
  const folds = Math.max(0, early.length - 1) + (endsInFold ? 1 : 0);
  const room = Math.max(0, width - lastWidth - folds * FOLD);
  const span = early.reduce((sum, s) => sum + (s.to - s.from), 0) || 1;

  const pieces: Piece[] = [];
  let x = 0;
  early.forEach((s, i) => {
    const before = early[i - 1];
    if (before) {
      pieces.push({ from: before.to, to: s.from, x0: x, x1: x + FOLD, kind: "fold" });
      x += FOLD;
    }
    const w = (room * (s.to - s.from)) / span;
    pieces.push({ from: s.from, to: s.to, x0: x, x1: x + w, kind: "work" });
    x += w;
  });
  if (endsInFold) {
    pieces.push({ from: lastOne.to, to: lastHour, x0: x, x1: x + FOLD, kind: "fold" });
    x += FOLD;
  }
  pieces.push({ from: lastHour, to: now, x0: x, x1: width, kind: "lastHour" });
  return { pieces, width, x: (time) => place(pieces, time) };
}

function place(pieces: Piece[], time: number): number {
  const first = pieces[0];
  const last = pieces.at(-1);
  if (!first || !last) return 0;
  if (time <= first.from) return first.x0;
  const piece = pieces.find((p) => time <= p.to) ?? last;
  const share = (time - piece.from) / (piece.to - piece.from || 1);
  return piece.x0 + Math.min(1, Math.max(0, share)) * (piece.x1 - piece.x0);
}

export interface Tick {
  x: number;
  time: number;
}

const STEPS = [5, 10, 15, 30, 60, 120, 180, 360].map((minutes) => minutes * 60_000);

/** Round moments with at least `gap` pixels between them. */
export function ticks(scale: TimeScale, gap = 52): Tick[] {
  const found: Tick[] = [];
  for (const piece of scale.pieces) {
    if (piece.kind === "fold") continue;
    const perPixel = (piece.to - piece.from) / Math.max(1, piece.x1 - piece.x0);
    const step = STEPS.find((s) => s / perPixel >= gap) ?? STEPS.at(-1) ?? HOUR;
    for (let t = Math.ceil(piece.from / step) * step; t <= piece.to; t += step) {
      const x = scale.x(t);
      const before = found.at(-1);
      if ((!before || x - before.x >= gap) && x < scale.width - gap) found.push({ x, time: t });
    }
  }
  return found;
}
