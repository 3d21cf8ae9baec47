import type { Plane, Slice } from "../api/schema";

/** x and y of both ends of each straight piece, four numbers each. */
export type Pieces = number[];

export interface LineDifference {
  same: Pieces;
  onlyA: Pieces;
  onlyB: Pieces;
  box: [number, number, number, number];
}

/** Both ends in an order of their own, so that a line drawn the other way round is the same. */
function keyOf(layer: string, p: Pieces, i: number, within: number): string {
  const at = (k: number) => Math.round((p[i + k] ?? 0) / within);
  const a = `${at(0)},${at(1)}`;
  const b = `${at(2)},${at(3)}`;
  return `${layer} ${a < b ? `${a} ${b}` : `${b} ${a}`}`;
}

function counted(plane: Plane, within: number): Map<string, number> {
  const found = new Map<string, number>();
  for (const layer of plane.layers) {
    for (let i = 0; i < layer.pieces.length; i += 4) {
      const key = keyOf(layer.name, layer.pieces, i, within);
      found.set(key, (found.get(key) ?? 0) + 1);
    }
  }
  return found;
}

/** Pieces of one side, told apart by whether the other has the same on the same layer. */
function split(plane: Plane, other: Map<string, number>, within: number, layer?: string) {
  const left = new Map(other);
  const same: Pieces = [];
  const only: Pieces = [];
  for (const one of plane.layers) {
    if (layer !== undefined && one.name !== layer) continue;
    for (let i = 0; i < one.pieces.length; i += 4) {
      const key = keyOf(one.name, one.pieces, i, within);
      const n = left.get(key) ?? 0;
      if (n > 0) left.set(key, n - 1);
      (n > 0 ? same : only).push(...one.pieces.slice(i, i + 4));
    }
  }
  return { same, only };
}

/** What of two drawings is the same line work and what only one has; within a length. */
export function lineDifference(a: Plane, b: Plane, within: number, layer?: string): LineDifference {
  const step = within > 0 ? within : 1e-6;
  const inA = split(a, counted(b, step), step, layer);
  const inB = split(b, counted(a, step), step, layer);
  return { same: inB.same, onlyA: inA.only, onlyB: inB.only, box: boxOf([a, b]) };
}

export function boxOf(planes: Plane[]): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const plane of planes) {
    for (const { pieces } of plane.layers) {
      for (let i = 0; i < pieces.length; i += 2) {
        const x = pieces[i] ?? 0;
        const y = pieces[i + 1] ?? 0;
        box[0] = Math.min(box[0], x);
        box[1] = Math.min(box[1], y);
        box[2] = Math.max(box[2], x);
        box[3] = Math.max(box[3], y);
      }
    }
  }
  return Number.isFinite(box[0]) ? box : [0, 0, 1, 1];
}

/** Numbers that are none travel as text. */
export const numbersOf = (slice: Slice): number[] => slice.values.map(Number);

export interface Histogram {
  from: number;
  to: number;
  a: number[];
  b: number[];
}

const BINS = 40;

/** How often which values occur, both sides in the same steps. */
export function histogram(a: number[], b: number[]): Histogram {
  const finite = [...a, ...b].filter(Number.isFinite);
  const from = finite.reduce((x, y) => Math.min(x, y), Infinity);
  const to = finite.reduce((x, y) => Math.max(x, y), -Infinity);
  const bins = (values: number[]) => {
    const found = new Array<number>(BINS).fill(0);
    for (const v of values) {
      if (!Number.isFinite(v)) continue;
      const at = to > from ? Math.floor(((v - from) / (to - from)) * BINS) : 0;
      const bin = Math.min(BINS - 1, at);
      found[bin] = (found[bin] ?? 0) + 1;
    }
    return found;
  };
  return { from, to, a: bins(a), b: bins(b) };
}

/** B − A, value by value; no number where either has none or the grids differ. */
export function gridDifference(a: Slice, b: Slice): number[] | undefined {
  if (a.rows !== b.rows || a.columns !== b.columns) return undefined;
  const from = numbersOf(a);
  return numbersOf(b).map((v, i) => v - (from[i] ?? NaN));
}

/** Largest distance from nought. */
export const reach = (values: number[]): number =>
  values.filter(Number.isFinite).reduce((most, v) => Math.max(most, Math.abs(v)), 0);
