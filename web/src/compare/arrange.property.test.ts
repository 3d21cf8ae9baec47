import fc from "fast-check";
import { expect, test } from "vitest";
import type { PartChange } from "../api/schema";
import { arrange, keyOf, type Outcome } from "./arrange";

const OUTCOMES: Outcome[] = ["ADDED", "REMOVED", "CHANGED", "SHIFTED", "RENAMED", "SAME"];
const name = fc.stringMatching(/^[a-zA-Z0-9 ]{1,8}$/);
const path = fc.array(name, { minLength: 1, maxLength: 4 }).map((parts) => parts.join("/"));

const change = fc
  .record({
    a: fc.option(path, { nil: undefined }),
    b: fc.option(path, { nil: undefined }),
    label: name,
    outcome: fc.constantFrom(...OUTCOMES),
    words: fc.constantFrom("", "12 faces more", "moved by 4 mm"),
  })
  .map(({ a, b, ...rest }): PartChange => ({
    ...rest,
    ...(a === undefined ? {} : { a }),
    ...(b === undefined ? {} : { b }),
    kind: "mesh",
    numbers: {},
  }));

const changes = fc.array(change, { maxLength: 80 });
const outcomes = fc.subarray(OUTCOMES).map((o) => new Set(o));
const order = fc.constantFrom<"weight" | "name" | "place">("weight", "name", "place");

test("what is shown is what was asked for, each part once, in whatever order", () => {
  fc.assert(
    fc.property(changes, outcomes, order, (all, wanted, by) => {
      const shown = arrange(all, { outcomes: wanted, words: "", order: by }).flatMap(
        (g) => g.parts,
      );
      const meant = all.filter((c) => wanted.has(c.outcome));
      expect(shown).toHaveLength(meant.length);
      expect(new Set(shown)).toEqual(new Set(meant));
    }),
  );
});

test("by weight is the order the service gives; by name numbers count as numbers", () => {
  fc.assert(
    fc.property(changes, (all) => {
      const every = new Set(OUTCOMES);
      expect(
        arrange(all, { outcomes: every, words: "", order: "weight" }).flatMap((g) => g.parts),
      ).toEqual(all);
      const named = arrange(all, { outcomes: every, words: "", order: "name" }).flatMap((g) =>
        g.parts.map((p) => p.label),
      );
      const sorted = [...named].sort((x, y) => x.localeCompare(y, undefined, { numeric: true }));
      expect(named).toEqual(sorted);
    }),
  );
});

test("by place each group holds what lies under it, and no group is empty", () => {
  fc.assert(
    fc.property(changes, (all) => {
      const groups = arrange(all, { outcomes: new Set(OUTCOMES), words: "", order: "place" });
      expect(new Set(groups.map((g) => g.above)).size).toBe(groups.length);
      for (const group of groups) {
        expect(group.parts.length).toBeGreaterThan(0);
        for (const p of group.parts) {
          const key = keyOf(p);
          const folder = key.includes("/") ? key.slice(0, key.lastIndexOf("/")) : "";
          expect(group.above).toBe(folder);
        }
      }
    }),
  );
});

test("words narrow: more of them never show more", () => {
  fc.assert(
    fc.property(
      changes,
      fc.stringMatching(/^[a-z]{0,2}$/),
      fc.stringMatching(/^[a-z]?$/),
      (all, w, more) => {
        const shown = (words: string) =>
          new Set(
            arrange(all, { outcomes: new Set(OUTCOMES), words, order: "weight" }).flatMap(
              (g) => g.parts,
            ),
          );
        const some = shown(w);
        for (const p of shown(w + more)) expect(some.has(p)).toBe(true);
      },
    ),
  );
});

test("what vanished is known by what it was called in A", () => {
  const gone: PartChange = {
    a: "Body/Door",
    kind: "mesh",
    label: "Door",
    numbers: {},
    outcome: "REMOVED",
    words: "",
  };
  expect(keyOf(gone)).toBe("Body/Door");
  expect(
    arrange([gone], { outcomes: new Set<Outcome>(["REMOVED"]), words: "body/d", order: "place" }),
  ).toEqual([{ above: "Body", parts: [gone] }]);
});
