import fc from "fast-check";
import { expect, test } from "vitest";
import type { LinkRow } from "../api/schema";
import { NOW, ago } from "../testing/fixtures";
import { headline, isLost, keyOf, statusWords } from "./words";

const row = (n: number, changes: Partial<LinkRow> = {}): LinkRow => ({
  absolute: false,
  canRelink: true,
  changedBy: "",
  document: "00000000-0000-7000-8000-000000000001",
  file: `/srv/tarnwick/carriage/pictures/panel-${n}.png`,
  path: "carriage-02.glb",
  state: "v1",
  status: "FOUND",
  uri: `pictures/panel-${n}.png`,
  users: [],
  ...changes,
});

test("what is missing stands first, a file once however many things use it", () => {
  const lost = row(1, { status: "MISSING" });
  expect(headline([lost], "carriage-02.glb")).toBe("1 file carriage-02.glb uses is missing");
  expect(headline([lost, { ...lost, uri: "again.png" }], "it")).toBe("1 file it uses is missing");
  expect(headline([lost, row(2, { status: "MISSING" })], "it")).toBe("2 files it uses are missing");
});

test("then what changed, then that all is well", () => {
  expect(headline([row(1, { status: "CHANGED" })], "it")).toBe(
    "All is there; 1 file is not what it was",
  );
  expect(headline([row(1, { status: "CHANGED" }), row(2, { status: "CHANGED" })], "it")).toBe(
    "All is there; 2 files are not what they were",
  );
  expect(headline([row(1)], "it")).toBe("Everything it uses is there, as it was");
  expect(headline([], "it")).toBe("it uses no other file");
});

test("each link says what is wrong with it, with who and when if that is known", () => {
  expect(statusWords(row(1), "UTC", NOW)).toBe("found");
  expect(statusWords(row(1, { status: "MISSING" }), "UTC", NOW)).toBe("missing");
  expect(statusWords(row(1, { status: "OUTSIDE" }), "UTC", NOW)).toBe(
    "outside what Kavrin may read",
  );
  const changed = row(1, { status: "CHANGED", changed: ago(60), changedBy: "Tove Asgrim" });
  expect(statusWords(changed, "UTC", NOW)).toMatch(/^changed .*13:31 by Tove Asgrim$/);
});

test("the headline never says all is there while something is lost", () => {
  const statuses = fc.constantFrom<LinkRow["status"]>("FOUND", "CHANGED", "MISSING", "OUTSIDE");
  fc.assert(
    fc.property(fc.array(statuses, { maxLength: 40 }), (all) => {
      const rows = all.map((status, n) => row(n, { status }));
      const said = headline(rows, "it");
      expect(said.includes("missing")).toBe(rows.some(isLost));
      expect(new Set(rows.map(keyOf)).size).toBe(rows.length);
    }),
  );
});
