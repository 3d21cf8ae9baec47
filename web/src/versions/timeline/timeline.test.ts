import { describe, expect, it } from "vitest";
import type { Incident, VersionsView } from "../../api/schema";
import { CLOSED } from "../../testing/fixtures";
import { layout } from "./layout";
import { stretches, ticks, timeScale } from "./time";

const HOUR = 3_600_000;
const NOW = Date.parse("2031-03-03T14:46:00Z");
const iso = (time: number) => new Date(time).toISOString();

function trail(
  states: { at: number; size: number; verdict: string; kinds: string[] }[],
): VersionsView {
  return {
    document: "d",
    project: "p",
    projectName: "Carriage",
    name: "carriage-02.glb",
    path: "/srv/carriage-02.glb",
    count: { states: states.length, copies: states.length, bytes: 0, folders: 1 },
    older: [],
    states: states.map((s, i) => ({
      id: `s${i}`,
      content: `c${i}`,
      workFrom: iso(s.at),
      workTo: iso(s.at),
      size: s.size,
      verdict: s.verdict,
      findings: [],
      links: [],
      marks: [],
      keptBecause: "",
      contradictions: [],
      orderKnown: true,
      copies: s.kinds.map((kind) => ({
        id: `${i}-${kind}`,
        kind,
        originKind: kind,
        path: `/srv/${kind}/x`,
        originPath: "/srv/x",
        sequence: 1,
        size: s.size,
        leftOut: [],
        cause: "found",
        settled: true,
        compacted: false,
        modified: iso(s.at),
        since: iso(s.at),
      })),
    })),
    activity: [],
    watched: [],
    bin: [],
    elsewhere: [],
    lookedAt: [],
    chain: [],
    exposure: {
      at: iso(NOW),
      quiet: false,
      open: CLOSED,
      acceptedSeconds: 600,
    },
  };
}

describe("time on the wake", () => {
  it("gives the last hour two fifths and never runs backwards", () => {
    const times = [50, 49, 26, 25, 24, 3, 0.5].map((h) => NOW - h * HOUR);
    const scale = timeScale(times, NOW, 1000);
    expect(scale.x(NOW)).toBe(1000);
    expect(scale.x(NOW - HOUR)).toBeCloseTo(600, 0);
    let before = -1;
    for (let t = NOW - 51 * HOUR; t <= NOW; t += HOUR / 6) {
      expect(scale.x(t)).toBeGreaterThanOrEqual(before);
      before = scale.x(t);
    }
  });

  it("folds quiet hours to narrow strips", () => {
    const folds = timeScale([NOW - 50 * HOUR, NOW - 26 * HOUR], NOW, 1000).pieces.filter(
      (p) => p.kind === "fold",
    );
    expect(folds).toHaveLength(2);
    folds.forEach((f) => expect(f.x1 - f.x0).toBe(14));
    expect(stretches([NOW - 50 * HOUR, NOW - 49 * HOUR, NOW - 26 * HOUR], NOW)).toHaveLength(2);
  });

  it("gives a document of the last hour the whole width", () => {
    expect(timeScale([NOW - HOUR / 2], NOW, 800).x(NOW - HOUR / 2)).toBeCloseTo(400, 0);
  });

  it("keeps ticks apart and on round minutes", () => {
    const found = ticks(timeScale([NOW - 5 * HOUR, NOW - 3 * HOUR], NOW, 900));
    expect(found.length).toBeGreaterThan(3);
    found.slice(1).forEach((t, i) => expect(t.x - (found[i]?.x ?? 0)).toBeGreaterThanOrEqual(52));
    found.forEach((t) => expect(t.time % (5 * 60_000)).toBe(0));
  });
});

describe("layout of the wake", () => {
  const states = [
    { at: NOW - 15 * 60_000, size: 60, verdict: "DAMAGED", kinds: ["LIVE"] },
    { at: NOW - 26 * 60_000, size: 100, verdict: "INTACT", kinds: ["SECURED", "AUTOSAVE"] },
    { at: NOW - 50 * 60_000, size: 90, verdict: "NO_FAULT", kinds: ["CAPTURE"] },
  ];
  const incident = {
    id: "i",
    project: "p",
    documents: ["d"],
    from: iso(NOW - 15 * 60_000),
    to: iso(NOW - 15 * 60_000),
    kind: "crash",
    evidence: [],
    open: true,
  } satisfies Incident;

  it("draws each copy once, tall as its share of the largest, shaped by its health", () => {
    const wake = layout(trail(states), [incident], NOW, 1000);
    expect(wake.bars).toHaveLength(4);
    const live = wake.bars.find((s) => s.state === "s0");
    expect(live?.height).toBeCloseTo(0.6);
    expect(live?.shape).toBe("broken");
    expect(wake.bars.find((s) => s.state === "s2")?.shape).toBe("openTop");
    expect(wake.lanes.map((l) => l.name)).toEqual(["Live file", "Program autosaves", "Kavrin"]);
  });

  it("ties equal contents across lanes and shades from the newest whole copy to now", () => {
    const wake = layout(trail(states), [incident], NOW, 1000);
    expect(wake.threads).toEqual([{ x: wake.scale.x(NOW - 26 * 60_000), from: 1, to: 2 }]);
    expect(wake.exposure).toEqual({ x0: wake.scale.x(NOW - 26 * 60_000), x1: 1000 });
    expect(wake.torn).toHaveLength(1);
  });

  it("shades nothing while nothing can be lost", () => {
    const quiet = trail(states);
    quiet.exposure.quiet = true;
    expect(layout(quiet, [], NOW, 1000).exposure).toBeUndefined();
  });

  it("lays 10,000 copies out well within a frame's patience", () => {
    const many = Array.from({ length: 10_000 }, (_, i) => ({
      at: NOW - i * 60_000,
      size: i % 97,
      verdict: "INTACT",
      kinds: ["CAPTURE"],
    }));
    expect(layout(trail(many), [], NOW, 1000).bars).toHaveLength(10_000);
  });
});
