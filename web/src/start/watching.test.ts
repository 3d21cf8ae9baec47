import { expect, test } from "vitest";
import type { Clue, Proposed } from "../api/schema";
import { PLAN } from "../testing/fixtures";
import { accepted, isTaken, keyOf } from "./watching";

const clue = (topic: Clue["topic"], value: string, sure: boolean): Clue => ({
  topic,
  value,
  sure,
  seen: "it lies there",
});

const proposed: Proposed = {
  sheet: {
    name: "modeller",
    process: "tarn-modeller",
    sessionSign: ".{stem}.open",
    writesEvery: "PT10M",
    leftovers: [
      { kind: "AUTOSAVE", folder: ".drafts", pattern: "{stem}~{n}.tmp" },
      { kind: "AUTOSAVE", folder: "../drawings", pattern: "sheet-{n}-{stem}.dxf" },
    ],
    ownFiles: [],
  },
  documents: ["summit-station.glb"],
  document: "summit-station.glb",
  size: 1,
  rule: ["*.glb"],
  writesItself: true,
  plan: PLAN,
  clues: [
    clue("PROCESS", "tarn-modeller", true),
    clue("SIGN", ".{stem}.open", false),
    clue("RHYTHM", "PT10M", true),
    clue("AUTOSAVE", ".drafts/{stem}~{n}.tmp", false),
    clue("AUTOSAVE", "../drawings/sheet-{n}-{stem}.dxf", false),
  ],
};

test("what only its name ties to the document is left if it lies in another folder", () => {
  const profile = accepted(proposed, new Map());
  expect(profile.leftovers.map((l) => l.folder)).toEqual([".drafts"]);
  expect(profile.process).toBe("tarn-modeller");
  expect(profile.sessionSign).toBe(".{stem}.open");
  expect(profile.writesEvery).toBe("PT10M");
});

test("what a person says counts, either way", () => {
  const drawings = { topic: "AUTOSAVE", value: "../drawings/sheet-{n}-{stem}.dxf" } as const;
  const said = new Map([
    [keyOf(drawings), true],
    ["PROCESS tarn-modeller", false],
    ["SIGN .{stem}.open", false],
    ["RHYTHM PT10M", false],
  ]);
  const profile = accepted(proposed, said);
  expect(profile.leftovers).toHaveLength(2);
  expect(profile.process).toBe("");
  expect(profile.sessionSign).toBeUndefined();
  expect(profile.writesEvery).toBeUndefined();
});

test("what was seen to be written is taken wherever it lies", () => {
  expect(isTaken(clue("AUTOSAVE", "../cache/{stem}.part", true), new Map())).toBe(true);
  expect(isTaken(clue("AUTOSAVE", "../cache/{stem}.part", false), new Map())).toBe(false);
});
