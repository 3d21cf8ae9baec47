// @vitest-environment happy-dom
import { act, cleanup, renderHook } from "@testing-library/react";
import fc from "fast-check";
import { afterEach, beforeEach, expect, test } from "vitest";
import { byState, type Pick, useTray, withPick } from "./tray";

beforeEach(() => sessionStorage.clear());
afterEach(cleanup);

const pick = fc.record({
  state: fc.constantFrom("v1", "v2", "v3"),
  part: fc.constantFrom("Body/Door", "Body/Frame", "Roof", "Bell", "Winch"),
  label: fc.constant("x"),
  work: fc.constant("2031-03-03T09:00:00Z"),
});

const tray = (picks: Pick[]) => picks.reduce<Pick[]>(withPick, []);

test("of each part the one picked last counts, and it stands last", () => {
  fc.assert(
    fc.property(fc.array(pick, { minLength: 1, maxLength: 40 }), (picks) => {
      const held = tray(picks);
      expect(new Set(held.map((p) => p.part)).size).toBe(held.length);
      expect(held.at(-1)).toBe(picks.at(-1));
      for (const h of held) {
        const last = picks.filter((p) => p.part === h.part).at(-1);
        expect(h).toBe(last);
      }
    }),
  );
});

test("what is asked for together are all parts, each with its version, none twice", () => {
  fc.assert(
    fc.property(fc.array(pick, { maxLength: 40 }), (picks) => {
      const held = tray(picks);
      const asked = byState(held);
      expect(new Set(asked.map((a) => a.state)).size).toBe(asked.length);
      const pairs = asked.flatMap((a) => a.parts.map((part) => `${a.state} ${part}`));
      expect([...pairs].sort()).toEqual(held.map((p) => `${p.state} ${p.part}`).sort());
    }),
  );
});

const lamp: Pick = { state: "s1", part: "Roof/Lamp", label: "Lamp", work: "2031-03-03T09:00:00Z" };

test("one of each part is held, for its document alone", () => {
  const first = renderHook(() => useTray("first"));
  const second = renderHook(() => useTray("second"));
  act(() => first.result.current.add(lamp));
  act(() => first.result.current.add({ ...lamp, state: "s2" }));
  expect(first.result.current.picks).toEqual([{ ...lamp, state: "s2" }]);
  expect(second.result.current.picks).toEqual([]);
});

test("what the page no longer stores is no longer picked", () => {
  const before = renderHook(() => useTray("first"));
  act(() => before.result.current.add(lamp));
  sessionStorage.clear();
  expect(renderHook(() => useTray("first")).result.current.picks).toEqual([]);
});
