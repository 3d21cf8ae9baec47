import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { version, versions } from "../../testing/fixtures";
import { layout } from "./layout";
import { ticks, timeScale } from "./time";

const HOUR = 3_600_000;
const NOW = Date.parse("2031-03-03T14:46:00Z");
const WIDTH = 1000;

/** Moments of up to two years back, in bursts as work comes. */
const moments = (most: number) =>
  fc
    .array(
      fc.tuple(
        fc.integer({ min: 0, max: 730 * 24 }),
        fc.array(fc.integer({ min: 0, max: 4 * HOUR }), { minLength: 1, maxLength: 12 }),
      ),
      { minLength: 1, maxLength: most },
    )
    .map((bursts) =>
      bursts.flatMap(([hours, steps]) => steps.map((s) => Math.min(NOW, NOW - hours * HOUR + s))),
    );

const KINDS = ["LIVE", "AUTOSAVE", "RESCUE", "CAPTURE", "SECURED", "AS_WRITTEN"];

const trails = fc
  .array(
    fc.record({
      at: fc.integer({ min: 0, max: 400 * 24 * HOUR }),
      size: fc.integer({ min: 0, max: 5_000_000_000 }),
      kind: fc.constantFrom(...KINDS),
      verdict: fc.constantFrom("INTACT", "NO_FAULT", "DOUBTFUL", "DAMAGED", "NOT_CHECKED"),
    }),
    { minLength: 1, maxLength: 300 },
  )
  .map((all) =>
    versions(
      all.map((v, i) => {
        const at = new Date(NOW - v.at).toISOString();
        const one = version(i, { workFrom: at, workTo: at, size: v.size, verdict: v.verdict });
        return {
          ...one,
          copies: one.copies.map((c) => ({ ...c, kind: v.kind, size: v.size, modified: at })),
        };
      }),
    ),
  );

describe("the scale of the timeline", () => {
  it("never runs backwards and stays in its picture, whatever was worked when", () => {
    fc.assert(
      fc.property(moments(60), fc.integer({ min: 200, max: 4000 }), (times, width) => {
        const scale = timeScale(times, NOW, width);
        const sorted = [...times, NOW].sort((a, b) => a - b).map((t) => scale.x(t));
        sorted.forEach((x, i) => {
          expect(x).toBeGreaterThanOrEqual(i === 0 ? -0.5 : (sorted[i - 1] ?? 0) - 1e-6);
          expect(x).toBeLessThanOrEqual(width + 0.5);
        });
      }),
      { numRuns: 150 },
    );
  });

  it("keeps its pieces side by side, without a gap and without an overlap", () => {
    fc.assert(
      fc.property(moments(60), (times) => {
        const { pieces } = timeScale(times, NOW, WIDTH);
        pieces.slice(1).forEach((p, i) => expect(p.x0).toBeCloseTo(pieces[i]?.x1 ?? NaN, 6));
        expect(pieces.at(-1)?.x1).toBeCloseTo(WIDTH, 6);
      }),
      { numRuns: 150 },
    );
  });

  it("never writes two times over each other", () => {
    fc.assert(
      fc.property(moments(40), (times) => {
        const found = ticks(timeScale(times, NOW, WIDTH));
        found.slice(1).forEach((t, i) => {
          expect(t.x - (found[i]?.x ?? 0)).toBeGreaterThanOrEqual(52);
          expect(t.time).toBeGreaterThan(found[i]?.time ?? 0);
        });
      }),
      { numRuns: 100 },
    );
  });
});

describe("the layout of the timeline", () => {
  it("draws every copy once, in the order of the work, no taller than its lane", () => {
    fc.assert(
      fc.property(trails, (trail) => {
        const drawn = layout(trail, [], NOW, WIDTH);
        expect(drawn.copies).toBe(trail.states.length);
        drawn.bars.forEach((bar) => {
          expect(bar.height).toBeGreaterThanOrEqual(0);
          expect(bar.height).toBeLessThanOrEqual(1);
          expect(bar.lane).toBeLessThan(drawn.lanes.length);
        });
        const time = new Map(trail.states.map((s) => [s.id, Date.parse(s.workTo)]));
        const places = drawn.bars
          .map((bar) => ({ x: bar.x, at: time.get(bar.state) ?? NaN }))
          .sort((a, b) => a.at - b.at);
        places
          .slice(1)
          .forEach((p, i) => expect(p.x).toBeGreaterThanOrEqual((places[i]?.x ?? 0) - 1e-6));
      }),
      { numRuns: 100 },
    );
  });

  it("has a lane for what lies elsewhere, in which each copy is whose it is", () => {
    fc.assert(
      fc.property(trails, fc.integer({ min: 1, max: 7 }), (trail, every) => {
        const there = trail.states.filter((_, i) => i % every === 0);
        const elsewhere = there.map((s) => ({
          state: s.id,
          verdict: s.verdict,
          work: s.workTo,
          size: s.size,
          store: "Annex",
          object: `files/${s.id}.glb`,
          verified: s.workTo,
        }));
        const drawn = layout({ ...trail, elsewhere }, [], NOW, WIDTH);
        const lane = drawn.lanes.findIndex((l) => l.name === "Elsewhere");
        expect(lane).toBe(drawn.lanes.length - 1);
        expect(drawn.lanes[lane]?.under).toBe("Annex/");
        const bars = drawn.bars.filter((b) => b.lane === lane);
        expect(bars.map((b) => b.state)).toEqual(there.map((s) => s.id));
        const here = new Map(drawn.bars.filter((b) => b.lane !== lane).map((b) => [b.state, b.x]));
        bars.forEach((b) => expect(b.x).toBeCloseTo(here.get(b.state) ?? NaN, 6));
      }),
      { numRuns: 60 },
    );
    expect(layout(versions([version(1)]), [], NOW, WIDTH).lanes.map((l) => l.name)).toEqual([
      "Live file",
      "Kavrin",
    ]);
  });

  it("shapes every bar by its health, never by its hue alone", () => {
    fc.assert(
      fc.property(trails, (trail) => {
        const verdicts = new Map(trail.states.map((s) => [s.id, s.verdict]));
        const shapes = new Map<string, Set<string>>();
        layout(trail, [], NOW, WIDTH).bars.forEach((bar) => {
          const of = verdicts.get(bar.state) ?? "";
          shapes.set(of, (shapes.get(of) ?? new Set()).add(bar.shape));
        });
        const all = [...shapes.values()].map((s) => {
          expect(s.size).toBe(1);
          return [...s][0];
        });
        expect(new Set(all).size).toBe(all.length);
      }),
      { numRuns: 60 },
    );
  });
});
