import { describe, expect, it } from "vitest";
import type { PartChange } from "../api/schema";
import { arrange } from "../compare/arrange";
import { looks } from "../compare/scene";
import { NO_PROFILE, toForm, toProfile } from "../programs/profile";
import { moment } from "./dates";
import { age, change, count, lostSince, lostTime, seconds, size, sizeChange } from "./words";

describe("words", () => {
  it("shows sizes decimal", () => {
    expect(size(24_800_000)).toBe("24.8 MB");
    expect(size(999)).toBe("999 B");
    expect(size(2_000_000_000)).toBe("2.0 GB");
    expect(size(-9_700_000)).toBe("−9.7 MB");
    expect(sizeChange(300_000)).toBe("+300.0 kB");
    expect(change(-2)).toBe("−2");
  });

  it("lets a loss grow only while the program runs", () => {
    const at = "2031-03-03T09:00:00Z";
    const later = Date.parse(at) + 60_000;
    const since = "2031-03-03T08:50:00Z";
    expect(lostSince(since, { at, open: { mayHoldWork: false } }, later)).toBe(600_000);
    expect(lostSince(since, { at, open: { mayHoldWork: true } }, later)).toBe(660_000);
    expect(lostSince(undefined, { at, open: { mayHoldWork: true } }, later)).toBeUndefined();
  });

  it("says ages as people do", () => {
    expect(age(-5)).toBe("0 s");
    expect(age(59_000)).toBe("59 s");
    expect(age(11 * 60_000)).toBe("11 min");
    expect(age(230 * 60_000)).toBe("3 h 50 min");
    expect(age(72 * 3_600_000)).toBe("3 days");
    expect(lostTime(11 * 60_000)).toBe("11 minutes");
    expect(lostTime(1000)).toBe("1 second");
    expect(count(1212, "file")).toBe("1 212 files");
    expect(count(2, "trial copy")).toBe("2 trial copies");
    expect(count(2, "copy")).toBe("2 copies");
  });

  it("reads durations as the server writes them", () => {
    expect(seconds("PT1H30M")).toBe(5400);
    expect(seconds("PT2.5S")).toBe(2.5);
    expect(seconds("PT48H")).toBe(172_800);
    expect(() => seconds("2 days")).toThrow("Not a duration");
  });

  it("names the day of a moment only when it is not today's", () => {
    const now = Date.parse("2031-03-05T14:46:00Z");
    expect(moment("2031-03-05T14:20:00Z", "UTC", now)).toBe("14:20");
    expect(moment("2031-03-03T16:42:00Z", "UTC", now)).toBe("Mon 16:42");
    expect(moment("2031-03-05T23:30:00Z", "Europe/Oslo", now)).toBe("Thu 00:30");
  });
});

describe("program sheets", () => {
  it("survive being edited", () => {
    const sheet = {
      name: "Tarn Modeller",
      process: "modeller",
      sessionSign: ".{stem}.open",
      writesEvery: "PT10M",
      leftovers: [{ kind: "RESCUE" as const, folder: ".drafts", pattern: "{stem}.rescue" }],
      lockText: "{user}@{host}:{pid}",
      crashLog: { folder: "~/.tarn/logs", pattern: "session-{n}.log", words: "fatal" },
      ownFiles: [{ folder: "~/.config/tarn/*", rule: ["*.layout", "*.preset"] }],
    };
    const back = toProfile(toForm(sheet));
    expect({ ...back, writesEvery: seconds(back.writesEvery ?? "") }).toEqual({
      ...sheet,
      writesEvery: 600,
    });
    expect(toProfile(NO_PROFILE)).toEqual({
      name: "unknown program",
      process: "",
      leftovers: [],
      ownFiles: [],
    });
  });
});

describe("the comparison picture", () => {
  const part = (outcome: PartChange["outcome"], a?: string, b?: string): PartChange => ({
    outcome,
    ...(a ? { a } : {}),
    ...(b ? { b } : {}),
    label: "x",
    kind: "mesh",
    numbers: {},
    words: "",
  });
  const changes = [
    part("SAME", "s", "s"),
    part("ADDED", undefined, "n"),
    part("REMOVED", "g"),
    part("CHANGED", "c", "c"),
  ];

  it("shows the same once, A's own in A's hue and B's own in B's", () => {
    const { a, b } = looks(changes, "both");
    expect([...a.keys()]).toEqual(["g", "c"]);
    expect(a.get("g")?.hue).toBe("a");
    expect(b.get("s")?.hue).toBe("same");
    expect(b.get("n")?.hue).toBe("b");
  });

  it("shows one side alone whole", () => {
    expect([...looks(changes, "a").a.keys()]).toEqual(["s", "g", "c"]);
    expect(looks(changes, "a").b.size).toBe(0);
    expect([...looks(changes, "b").b.keys()]).toEqual(["s", "n", "c"]);
  });
});

describe("parts of a comparison", () => {
  const part = (id: string, outcome: PartChange["outcome"], words = ""): PartChange => ({
    outcome,
    a: id,
    b: id,
    label: id.replace(/^.*\//, ""),
    kind: "mesh",
    numbers: {},
    words,
  });
  const all = [
    part("Roof/Lamp 10", "REMOVED"),
    part("Roof/Lamp 9", "CHANGED", "moved up to 4.0 mm"),
    part("Frame", "SAME"),
  ];

  it("are those a person asked for, in their order", () => {
    const outcomes = new Set<PartChange["outcome"]>(["REMOVED", "CHANGED"]);
    const names = (wanted: Partial<Parameters<typeof arrange>[1]>) =>
      arrange(all, { outcomes, words: "", order: "weight", ...wanted }).map((g) => [
        g.above,
        ...g.parts.map((p) => p.label),
      ]);
    expect(names({})).toEqual([["", "Lamp 10", "Lamp 9"]]);
    expect(names({ order: "name" })).toEqual([["", "Lamp 9", "Lamp 10"]]);
    expect(names({ order: "place" })).toEqual([["Roof", "Lamp 9", "Lamp 10"]]);
    expect(names({ words: "MOVED" })).toEqual([["", "Lamp 9"]]);
    expect(names({ words: "nothing like it" })).toEqual([]);
    expect(names({ outcomes: new Set(["SAME"]), order: "place" })).toEqual([["", "Frame"]]);
  });
});
