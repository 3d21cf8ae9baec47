// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { ADVICE, ago, document, PLAN, planAnswer, PRICE, PROJECT } from "../testing/fixtures";
import { inAWorld } from "../testing/world";
import type { AdviceAnswer, Replayed } from "../api/schema";

inAWorld();

const BASE = `/api/projects/${PROJECT.id}`;

function thePlan(more: Parameters<typeof answering>[0] = {}) {
  answering({
    [`${BASE}/plan/figures`]: planAnswer(),
    [`${BASE}/plan/advice`]: ADVICE,
    [`${BASE}/plan/price`]: PRICE,
    [`${BASE}/plan/versions`]: [],
    ...more,
  });
  return open(`/plan/${document(1).id}`);
}

const FOUND = {
  runs: [
    { setup: "hall/fire.json", from: 1, to: 40, runs: 2, restarts: 12, results: 40, told: [] },
    { setup: "hall/smoke.json", runs: 1, restarts: 0, results: 0, told: ["no restart file"] },
  ],
  strangers: ["notes.txt"],
};

async function editor(more: Parameters<typeof answering>[0] = {}) {
  const page = thePlan(more);
  await page.user.click(await screen.findByRole("button", { name: /^Files of a run/ }));
  await page.user.click(
    await screen.findByRole("button", {
      name: /^(files that belong together…|change what belongs together)$/,
    }),
  );
  return { user: page.user, dialog: await screen.findByRole("dialog") };
}

test("a rule for runs shows what would join, and is set against the plan's version", async () => {
  const { user, dialog } = await editor({
    [`POST ${BASE}/runs/preview`]: FOUND,
    [`PUT ${BASE}/runs`]: PROJECT,
  });
  expect(
    await within(dialog).findByText("2 run folders would join, new ones by themselves"),
  ).toBeDefined();
  expect(within(dialog).getByText("steps 1 to 40, 2 runs")).toBeDefined();
  expect(within(dialog).getByText("no step yet")).toBeDefined();
  expect(within(dialog).getByText("Fits no name above: notes.txt")).toBeDefined();
  const folder = within(dialog).getByLabelText("Folder of the result");
  await user.type(folder, "out");
  await user.clear(within(dialog).getByLabelText("Name of the restart file"));
  await user.click(within(dialog).getByRole("button", { name: "These belong together" }));
  await waitFor(() =>
    expect(asked.find((a) => a.what === `PUT ${BASE}/runs`)?.sent).toEqual({
      sets: {
        members: [
          { role: "SETUP", folder: "", pattern: "{stem}.json" },
          { role: "RESULT", folder: "out", pattern: "{stem}-{step}.result.h5" },
        ],
      },
    }),
  );
});

test("a rule that cannot be is said, and cannot be set", async () => {
  const { dialog } = await editor({
    [`POST ${BASE}/runs/preview`]: () =>
      problem(422, "pattern", "The restart file's name has two steps in it."),
  });
  expect(
    await within(dialog).findByText("The restart file's name has two steps in it."),
  ).toBeDefined();
  expect(within(dialog).getByRole("button", { name: "These belong together" })).toHaveProperty(
    "disabled",
    true,
  );
});

test("what belonged together is taken apart again", async () => {
  const sets = {
    members: [
      { role: "SETUP", folder: "", pattern: "{stem}.json" },
      { role: "RESTART", folder: "safe", pattern: "{stem}.restart.h5" },
    ],
  };
  const { user, dialog } = await editor({
    [BASE]: { ...PROJECT, sets },
    [`POST ${BASE}/runs/preview`]: { runs: [], strangers: [] },
    [`PUT ${BASE}/runs`]: PROJECT,
  });
  expect(screen.getByText("safe/{stem}.restart.h5")).toBeDefined();
  expect(within(dialog).getByText(/^No file is called like that set-up yet/)).toBeDefined();
  await user.click(within(dialog).getByRole("button", { name: "Treat every file alone" }));
  await waitFor(() => expect(asked.find((a) => a.what === `PUT ${BASE}/runs`)?.sent).toEqual({}));
});

const replayed = (changes: Partial<Replayed> = {}): Replayed => ({
  copies: 86,
  days: [],
  losses: [
    { at: ago(2000), copies: 12, lost: "PT25M", watched: true, work: ago(2025) },
    { at: ago(900), copies: 40, lost: "PT35M", watched: true, work: ago(935) },
    { at: ago(500), copies: 0, lost: "PT0S", watched: false },
  ],
  lost: "PT1H",
  peak: 97_700_000,
  written: 249_000_000,
  ...changes,
});

function replays(changes: Partial<AdviceAnswer>) {
  thePlan({ [`${BASE}/plan/advice`]: { ...ADVICE, ...changes } });
}

test("past work is replayed with this plan and the proposed one, loss beside loss", async () => {
  replays({
    since: ago(4000),
    sittings: [
      { from: ago(4000), to: ago(3700) },
      { from: ago(1000), to: ago(880) },
    ],
    replays: [replayed()],
    proposed: replayed({
      copies: 120,
      lost: "PT20M",
      losses: replayed().losses.map((l) => ({ ...l, lost: "PT10M" })),
    }),
    advice: {
      ...ADVICE.advice,
      proposal: {
        changes: [],
        moreBytes: 0,
        told: [],
        plan: { ...PLAN, interval: "PT5M" },
      },
    },
    unwatched: 1,
  });
  expect(
    await screen.findByText(
      /2 crashes, the file lost each time: .* would have cost 1 h of work; the proposed 5 min would have cost 20 min, with 34 more copies\./,
    ),
  ).toBeDefined();
  expect(screen.getByText(/7 h of work seen; .*1 crashes nobody watched/)).toBeDefined();
  expect(screen.getByText(/nobody watched: left out/)).toBeDefined();
  expect(screen.getByText("25 min · 12 backups stood")).toBeDefined();
  expect(screen.getAllByText("249.0 MB")).toHaveLength(2);
});

test("without a crash nothing would have been lost, and nothing else is claimed", async () => {
  replays({ since: ago(4000), sittings: [], replays: [replayed({ losses: [], lost: "PT0S" })] });
  expect(await screen.findByText(/^No crash fell into the time that was watched/)).toBeDefined();
});

test("before any write was seen it says so", async () => {
  replays({});
  expect(await screen.findByText(/^Once some writes were seen/)).toBeDefined();
});
