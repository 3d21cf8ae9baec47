import { describe, expect, it } from "vitest";
import type { Plane, Slice } from "../api/schema";
import { gridDifference, histogram, lineDifference, reach } from "./difference";
import { shifts } from "./scene";

const plane = (layers: Record<string, number[][]>): Plane => ({
  layers: Object.entries(layers).map(([name, lines]) => ({ name, pieces: lines.flat() })),
  all: true,
});

const slice = (rows: number, values: unknown[]): Slice =>
  ({ name: "heat", unit: "K", rows, columns: values.length / rows, values }) as Slice;

describe("line work", () => {
  const before = plane({ Walls: [[0, 0, 4, 0], [4, 0, 4, 3]], Track: [[0, 9, 9, 9]] }); // prettier-ignore

  it("is the same whichever end it is drawn from", () => {
    const after = plane({ Walls: [[4, 0, 0, 0], [4, 3, 4, 0]], Track: [[9, 9, 0, 9]] }); // prettier-ignore
    const found = lineDifference(before, after, 0.001);
    expect([found.onlyA, found.onlyB]).toEqual([[], []]);
    expect(found.same).toHaveLength(12);
  });

  it("is told apart by layer, and each copy of a line counts", () => {
    const after = plane({ Walls: [[0, 0, 4, 0], [0, 0, 4, 0]], Track: [[4, 0, 4, 3]] }); // prettier-ignore
    const found = lineDifference(before, after, 0.001);
    expect(found.onlyA).toEqual([4, 0, 4, 3, 0, 9, 9, 9]);
    expect(found.onlyB).toEqual([0, 0, 4, 0, 4, 0, 4, 3]);
  });

  it("can be looked at one layer at a time, on the whole sheet", () => {
    const found = lineDifference(before, plane({}), 0.001, "Track");
    expect(found.onlyA).toEqual([0, 9, 9, 9]);
    expect(found.box).toEqual([0, 0, 9, 9]);
  });
});

describe("fields", () => {
  it("are taken from each other value by value, where both have a number", () => {
    const apart = gridDifference(slice(1, [1, 2, "NaN"]), slice(1, [1.5, "NaN", 3]));
    expect(apart?.[0]).toBe(0.5);
    expect(apart?.slice(1).every(Number.isNaN)).toBe(true);
    expect(reach(apart ?? [])).toBe(0.5);
    expect(gridDifference(slice(1, [1]), slice(1, [1, 2]))).toBeUndefined();
  });

  it("count every number once in their histograms", () => {
    const found = histogram([0, 1, 2, NaN], [2, 2]);
    const sum = (of: number[]) => of.reduce((x, y) => x + y, 0);
    expect([sum(found.a), sum(found.b)]).toEqual([3, 2]);
    expect([found.from, found.to]).toEqual([0, 2]);
  });
});

describe("vertices", () => {
  it("went as far as Pythagoras says", () => {
    expect([...(shifts([0, 0, 0, 1, 1, 1], [3, 4, 0, 1, 1, 1]) ?? [])]).toEqual([5, 0]);
    expect(shifts([0, 0, 0], [])).toBeUndefined();
  });
});
