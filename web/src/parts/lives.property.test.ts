import fc from "fast-check";
import { expect, test } from "vitest";
import type { PartLine, PartsView } from "../api/schema";
import { bars, momentOf, sections, SINCE, type Since, ticks } from "./lives";

const STATES = 200;

/** Stretches that rise, apart from each other, as the service tells them. */
const stretches = fc
  .uniqueArray(fc.integer({ min: 0, max: STATES - 1 }), { maxLength: 24 })
  .map((ends) => {
    const sorted = [...ends].sort((a, b) => a - b);
    return sorted.slice(0, sorted.length - (sorted.length % 2));
  });

const part = (id: number) =>
  fc
    .record({
      label: fc.string({ maxLength: 12 }),
      above: fc.option(fc.string({ maxLength: 8 }), { nil: undefined }),
      changes: fc.array(fc.integer({ min: 0, max: STATES - 1 }), { maxLength: 12 }),
      stretches,
      there: fc.boolean(),
      why: fc.constantFrom("", "hidden", "its layer is off"),
    })
    .map(({ above, ...p }): PartLine => ({
      ...p,
      ...(above === undefined ? {} : { above }),
      id,
      kind: "mesh",
      unit: "",
      size: 1,
      first: 0,
      lastSeen: STATES - 1,
    }));

const views = fc.integer({ min: 0, max: 60 }).chain((many) =>
  fc.tuple(...Array.from({ length: many }, (_, id) => part(id))).chain((parts) =>
    fc.subarray(parts.filter((p) => !p.there).map((p) => p.id)).map((gone): PartsView => ({
      gone,
      newest: STATES - 1,
      newestWhole: true,
      parts,
      since: 0,
      states: [],
    })),
  ),
);

test("each part stands in one section and none is left out", () => {
  fc.assert(
    fc.property(views, (view) => {
      const shown = sections(view, "").flatMap((s) => s.parts.map((p) => p.id));
      expect([...shown].sort((a, b) => a - b)).toEqual(view.parts.map((p) => p.id));
    }),
  );
});

test("what went stands first, in the order it is told; nothing empty is a section", () => {
  fc.assert(
    fc.property(views, (view) => {
      const all = sections(view, "");
      expect(all.every((s) => s.parts.length > 0)).toBe(true);
      const went = all.find((s) => s.title === "Gone since");
      expect(went?.parts.map((p) => p.id) ?? []).toEqual(view.gone);
      if (went) expect(all[0]).toBe(went);
      const order = ["Gone since", "There, but not seen", "There now", "Gone before that"];
      const places = all.map((s) => order.indexOf(s.title));
      expect(places).toEqual([...places].sort((a, b) => a - b));
    }),
  );
});

test("finding by words leaves what has them, in whatever case", () => {
  fc.assert(
    fc.property(views, fc.string({ maxLength: 3 }), (view, words) => {
      const wanted = words.trim().toLowerCase();
      const shown = new Set(sections(view, words).flatMap((s) => s.parts.map((p) => p.id)));
      for (const p of view.parts) {
        const has = `${p.label} ${p.above ?? ""}`.toLowerCase().includes(wanted);
        expect(shown.has(p.id)).toBe(has);
      }
    }),
  );
});

test("bars lie within the line, in order, and cover the states in which the part was there", () => {
  fc.assert(
    fc.property(part(1), fc.integer({ min: 40, max: 2000 }), (p, width) => {
      const drawn = bars(p, STATES, width);
      expect(drawn).toHaveLength(p.stretches.length / 2);
      const one = width / STATES;
      drawn.forEach((bar, i) => {
        expect(bar.x).toBeCloseTo((p.stretches[2 * i] ?? 0) * one, 6);
        expect(bar.width).toBeGreaterThanOrEqual(1.5);
        expect(bar.x + bar.width).toBeLessThanOrEqual(width + 1.5);
        const next = drawn[i + 1];
        if (next && one >= 1.5) expect(next.x).toBeGreaterThanOrEqual(bar.x + bar.width - 1e-6);
      });
    }),
  );
});

test("a mark for each change stands in the middle of its state", () => {
  fc.assert(
    fc.property(part(1), fc.integer({ min: 40, max: 2000 }), (p, width) => {
      const at = ticks(p, STATES, width);
      expect(at).toHaveLength(p.changes.length);
      at.forEach((x, i) => {
        expect(Math.floor((x / width) * STATES)).toBe(p.changes[i]);
      });
    }),
  );
});

test("a span begins on a whole minute, as long ago as it says, and asking again asks the same", () => {
  const spans = Object.keys(SINCE) as Since[];
  const hours: Record<string, number> = { hour: 1, day: 24, week: 168, month: 720 };
  fc.assert(
    fc.property(
      fc.constantFrom(...spans),
      fc.integer({ min: 1_900_000_000_000, max: 1_950_000_000_000 }),
      fc.integer({ min: 0, max: 59_999 }),
      (since, minute, within) => {
        const now = minute - (minute % 60_000);
        const told = momentOf(since, now + within);
        if (since === "ever") {
          expect(told).toBeUndefined();
          return;
        }
        expect(told).toBe(momentOf(since, now));
        expect(Date.parse(told ?? "")).toBe(now - (hours[since] ?? 0) * 3_600_000);
      },
    ),
  );
});
