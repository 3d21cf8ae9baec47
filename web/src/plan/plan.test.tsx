// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import fc from "fast-check";
import { expect, test } from "vitest";
import type { Counts } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { ADVICE, ago, document, job, PLAN, planAnswer, PRICE, PROJECT } from "../testing/fixtures";
import { inAWorld } from "../testing/world";
import { olderWords } from "./PlanForm";

inAWorld();

const BASE = `/api/projects/${PROJECT.id}`;

function thePlan() {
  answering({
    [`${BASE}/plan/figures`]: planAnswer(),
    [`${BASE}/plan/advice`]: ADVICE,
    [`${BASE}/plan/price`]: PRICE,
    [`${BASE}/plan/versions`]: [],
  });
  return open(`/plan/${document(1).id}`);
}

const figures = () => asked.filter((a) => a.what.endsWith("/plan/figures"));
const lastInterval = () => (figures().at(-1)?.sent as { plan: { interval: string } }).plan.interval;

test("how often, how many and where stand first, each with what it comes to", async () => {
  thePlan();
  expect((await screen.findByLabelText<HTMLInputElement>("Minutes after a change")).value).toBe(
    "10",
  );
  expect(screen.getByLabelText<HTMLInputElement>("Newest copies to keep").value).toBe("24");
  expect(screen.getByText("/mnt/keep")).toBeDefined();
  await screen.findByText("up to 10 min lost");
  const fileLost = screen.getByText("If the file is lost").parentElement as HTMLElement;
  expect(within(fileLost).getByText(/up to 52 min lost/)).toBeDefined();
  expect(within(fileLost).getByText(/seen in 14 h 31 min: 24 min on average/)).toBeDefined();
  expect(screen.getByText("everything: no backup is on another disk")).toBeDefined();
  expect(
    screen.getByText(/up to 559.5 MB, 87.0 MB of it autosaves, 100.0 MB the bin/),
  ).toBeDefined();
});

test("a number may be empty while one types, and then nothing changes", async () => {
  const { user } = thePlan();
  const field = await screen.findByLabelText<HTMLInputElement>("Minutes after a change");
  await screen.findByText("up to 10 min lost");
  await user.clear(field);
  expect(field.value).toBe("");
  expect(screen.getByRole("button", { name: "Nothing to apply" })).toBeDefined();
  await user.type(field, "5");
  await screen.findByRole("button", { name: "Apply · drops nothing" });
  expect(lastInterval()).toBe("PT300S");
});

test("autosaves have counts of their own, and it says how long nothing guarded the last", async () => {
  const { user } = thePlan();
  answering({
    [`${BASE}/plan/figures`]: planAnswer({
      lastKept: {
        file: "/srv/tarnwick/carriage/.drafts/carriage-02~3.tmp",
        guard: "SECOND_NAME",
        open: "PT1.25S",
        written: ago(3),
        size: 2_900_000,
      },
    }),
  });
  const section = await screen.findByRole("button", { name: /^Autosaves/ });
  expect(section.textContent).toContain("the last 6, one an hour for 24 h");
  await user.click(section);
  expect(await screen.findByText(/up to 87.0 MB of room, 17.4 MB written/)).toBeDefined();
  const field = await screen.findByLabelText("Autosaves to keep");
  await user.clear(field);
  await user.type(field, "9");
  await screen.findByText(
    /carriage-02~3.tmp of .*was safe 1.3 s after its last byte: under a second/,
  );
  await screen.findByRole("button", { name: "Apply · drops nothing" });
  const sent = figures().at(-1)?.sent as { plan: { programCopies: unknown } };
  expect(sent.plan.programCopies).toEqual({ newest: 9, hourly: "PT24H" });
  await user.clear(field);
  await user.type(field, "0");
  await user.clear(screen.getByLabelText("Hours of hourly autosaves"));
  await user.type(screen.getByLabelText("Hours of hourly autosaves"), "0");
  expect((await screen.findByRole("button", { name: /^Autosaves/ })).textContent).toContain(
    "not kept",
  );
});

test("compacting is measured on the project's own versions, then wanted by the plan", async () => {
  const { user } = thePlan();
  const measured = { versions: 60, measured: 12, before: 38e9, after: 21e8, time: "PT40S" };
  answering({
    [`${BASE}/compacting`]: {
      standing: { compacted: 0, plain: 0, stored: 0, due: 0, dueBytes: 0 },
    },
    [`POST ${BASE}/compacting/measure`]: job(measured),
  });
  const section = await screen.findByRole("button", { name: /^Older versions/ });
  expect(section.textContent).toContain("none: all stay plain files");
  await user.click(section);
  await screen.findByText("None is compacted yet.");
  await user.click(screen.getByRole("button", { name: "Measure what it saves" }));
  await screen.findByText(/60 versions: 38.0 GB → 2.1 GB, about 40 s of work/);
  expect(screen.queryByRole("button", { name: "Compact now" })).toBeNull();
  await user.click(screen.getByRole("checkbox", { name: /^older versions/ }));
  await screen.findByRole("button", { name: "Apply · drops nothing" });
  const sent = figures().at(-1)?.sent as { plan: { compacting: unknown } };
  expect(sent.plan.compacting).toEqual({ on: true, newest: 5, every: 50 });
  expect((await screen.findByRole("button", { name: /^Older versions/ })).textContent).toContain(
    "all but the newest 5 and one of every 50",
  );
});

test("that compacting would pay is said where one looks, and wanted with one press", async () => {
  const { user } = thePlan();
  answering({
    [`${BASE}/compacting`]: {
      standing: { compacted: 0, plain: 0, stored: 0, due: 0, dueBytes: 0 },
      proposed: {
        asIf: { on: true, newest: 5, every: 50 },
        comesTo: { versions: 60, measured: 12, before: 38e9, after: 21e8, time: "PT40S" },
      },
    },
  });
  const section = await screen.findByRole("button", { name: /^Older versions/ });
  await waitFor(() => expect(section.textContent).toContain("would take 35.9 GB less"));
  await user.click(section);
  await screen.findByText(/It would pay: 60 versions of 38.0 GB would take 2.1 GB, about 40 s/);
  await user.click(screen.getByRole("button", { name: "Compact them" }));
  await screen.findByRole("button", { name: "Apply · drops nothing" });
  const sent = figures().at(-1)?.sent as { plan: { compacting: unknown } };
  expect(sent.plan.compacting).toEqual({ on: true, newest: 5, every: 50 });
  expect(screen.queryByText(/It would pay/)).toBeNull();
});

test("what waits can be compacted now; a failure is told", async () => {
  const { user } = thePlan();
  const plan = { ...PLAN, compacting: { on: true, newest: 5, every: 50 } };
  const standing = { compacted: 38, plain: 38e9, stored: 21e8, due: 12, dueBytes: 12e9 };
  answering({
    [BASE]: { ...PROJECT, plan },
    [`${BASE}/compacting`]: { standing },
    [`POST ${BASE}/compacting/now`]: problem(507, "no-room", "The disk is full. Nothing changed."),
  });
  await user.click(await screen.findByRole("button", { name: /^Older versions/ }));
  await screen.findByText(
    "38 versions compacted: 2.1 GB instead of 38.0 GB. 12 versions (12.0 GB) wait until nobody works.",
  );
  await user.click(screen.getByRole("button", { name: "Compact now" }));
  await screen.findByText(/The disk is full. Nothing changed./);
  answering({
    [`POST ${BASE}/compacting/now`]: job({ versions: 12, before: 12e9, after: 4e8 }),
    [`${BASE}/compacting`]: { standing: { ...standing, compacted: 50, due: 0, dueBytes: 0 } },
  });
  await user.click(screen.getByRole("button", { name: "Compact now" }));
  await screen.findByText("Compacted 12 versions: 12.0 GB → 400.0 MB.");
  expect(screen.queryByRole("button", { name: "Compact now" })).toBeNull();
});

test("what is applied is what is shown, against the version that was read", async () => {
  const { user } = thePlan();
  const field = await screen.findByLabelText("Newest copies to keep");
  await user.clear(field);
  await user.type(field, "3");
  answering({
    [`${BASE}/plan/figures`]: planAnswer({ drops: 21, dropBytes: 60_900_000 }),
    [`PUT ${BASE}`]: PROJECT,
  });
  await user.type(field, "0");
  const apply = await screen.findByRole("button", { name: "Apply · moves 21 to the bin" });
  expect(screen.getByText(/moves 21 backups \(60.9 MB\) to the bin/)).toBeDefined();
  await user.click(apply);
  const put = asked.find((a) => a.what === `PUT ${BASE}`)?.sent as { plan: typeof PLAN };
  expect(put.plan.keep.newest).toBe(30);
  expect(put.plan.interval).toBe(PLAN.interval);
});

test("a plan that somebody else changed meanwhile is not overwritten, and says so", async () => {
  const { user } = thePlan();
  await user.click(await screen.findByText("and on every save"));
  answering({
    [`PUT ${BASE}`]: () => problem(412, "stale", "Bram Odell changed it. Nothing was changed."),
  });
  await user.click(await screen.findByRole("button", { name: /^Apply/ }));
  expect(await screen.findByText("Bram Odell changed it. Nothing was changed.")).toBeDefined();
});

test("everything finer is closed and says in a line how it is set", async () => {
  const { user } = thePlan();
  const section = await screen.findByRole("button", { name: /^How many exactly/ });
  expect(section.textContent).toContain("hourly for 3 days, daily for 30 days");
  expect(screen.queryByLabelText("Days of hourly copies")).toBeNull();
  await user.click(section);
  expect((await screen.findByLabelText<HTMLInputElement>("Days of hourly copies")).value).toBe("3");
});

test("figures that cannot be computed are told, and the plan stays", async () => {
  const page = thePlan();
  answering({ [`${BASE}/plan/figures`]: () => problem(503, "away", "The backup folder is away.") });
  expect(await screen.findByText("The backup folder is away.")).toBeDefined();
  expect(screen.getByLabelText("Minutes after a change")).toBeDefined();
  page.unmount();
});

test("older versions are told for any counts, and 'nothing older' only for none", () => {
  const hours = (n: number) => (n === 0 ? "PT0S" : `PT${n}H`);
  fc.assert(
    fc.property(fc.nat(60), fc.nat(60), fc.nat(60), fc.nat(40), fc.nat(9), (h, d, w, ring, gb) => {
      const keep: Counts = {
        newest: 1,
        hourly: hours(h * 24),
        daily: hours(d * 24),
        weekly: hours(w * 168),
        ring,
        room: gb * 1e9,
      };
      const words = olderWords(keep);
      const told = [
        h && `hourly for ${h} days`,
        d && `daily for ${d} days`,
        w && `weekly for ${w} weeks`,
        ring && `a ring of ${ring}`,
        gb && `within ${gb} GB`,
      ].filter(Boolean);
      expect(words).toBe(told.length === 0 ? "nothing older" : told.join(", "));
    }),
  );
});

test("what the work needs beside the project is backed up by one press", async () => {
  const { user } = thePlan();
  const own = {
    why: "OWN_FILES",
    folder: "/srv/tarnwick/.config/tarn/5.1",
    rule: ["*.layout", "*.preset"],
    files: 12,
    bytes: 480_000,
    allowed: true,
  };
  answering({
    [`${BASE}/beside`]: [
      own,
      { ...own, folder: "/etc/tarn", files: 0, bytes: 0, allowed: false },
      { ...own, why: "LINKED", folder: "/srv/tarnwick/library", backedUpBy: "Library" },
    ],
    "POST /api/projects": job(PROJECT),
  });
  await user.click(await screen.findByRole("button", { name: /Beside the project/ }));
  const rows = within(await screen.findByRole("list", { name: "Folders beside the project" }));
  expect(rows.getAllByText(/^12 files, 480/)).toHaveLength(2);
  expect(rows.getByText(/Kavrin may not look there/)).toBeDefined();
  expect(rows.getByText(/backed up as “Library”/)).toBeDefined();
  expect(rows.getAllByRole("button", { name: /^Back up/ })).toHaveLength(1);
  await user.click(rows.getByRole("button", { name: `Back up too: ${own.folder}` }));
  await waitFor(() => expect(asked.some((a) => a.what === "POST /api/projects")).toBe(true));
  expect(asked.find((a) => a.what === "POST /api/projects")?.sent).toEqual({
    name: "Tarn Modeller 5.1",
    folder: own.folder,
    rule: own.rule,
    recovery: "/mnt/keep",
    plan: PLAN,
  });
});

test("with nothing beside the project it says where such files are named", async () => {
  const { user } = thePlan();
  answering({ [`${BASE}/beside`]: [] });
  await user.click(await screen.findByRole("button", { name: /Beside the project/ }));
  expect(await screen.findByText(/names no templates, presets or the like/)).toBeDefined();
});
