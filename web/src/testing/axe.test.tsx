// @vitest-environment happy-dom
import { screen } from "@testing-library/react";
import axe from "axe-core";
import { expect, test } from "vitest";
import { answering, open } from "./app";
import {
  ADVICE,
  document,
  folder,
  job,
  overview,
  planAnswer,
  PRICE,
  PROJECT,
  project,
  recovery,
} from "./fixtures";
import { inAWorld } from "./world";

inAWorld();

const BASE = `/api/projects/${PROJECT.id}`;

/** Hues are checked in a real browser: this one draws nothing. */
const RULES = { rules: { "color-contrast": { enabled: false } } };

async function faults(): Promise<string[]> {
  const result = await axe.run(globalThis.document.body, RULES);
  return result.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`);
}

const MODES = ["light", "dark"];

test.each(MODES)("the overview can be used by everybody, %s", async (mode) => {
  localStorage.setItem("kavrin.mode", mode);
  answering({
    "/api/overview": overview(
      project({
        cautions: ["It is on the same disk as the work."],
        drifts: [{ words: "autosave is off", off: true }],
      }),
      project({ id: "00000000-0000-7000-9000-000000000002", name: "Winding gear", documents: [] }),
    ),
  });
  open("/overview");
  await screen.findByRole("link", { name: "carriage-01.glb" });
  expect(await faults()).toEqual([]);
});

test.each(MODES)("the plan can be used by everybody, all its sections open, %s", async (mode) => {
  localStorage.setItem("kavrin.mode", mode);
  answering({
    [`${BASE}/plan/figures`]: planAnswer(),
    [`${BASE}/plan/advice`]: ADVICE,
    [`${BASE}/plan/price`]: PRICE,
    [`${BASE}/plan/versions`]: [],
  });
  const { user } = open(`/plan/${document(1).id}`);
  await screen.findByText("up to 10 min lost");
  for (const title of [
    "When exactly",
    "How many exactly",
    "Pauses",
    "Left out",
    "Reminders",
    "Questions",
    "Regular tests",
  ]) {
    await user.click(screen.getByRole("button", { name: new RegExp(`^${title}`) }));
  }
  await screen.findByLabelText("Slots of the ring");
  expect(await faults()).toEqual([]);
});

test.each(MODES)("the folders can be used by everybody, %s", async (mode) => {
  localStorage.setItem("kavrin.mode", mode);
  answering({
    "/api/folders": [
      folder(1, { role: "RECOVERY", copies: 3, bytes: 1e6 }),
      folder(2, { here: false }),
    ],
    "/api/search": { strays: [], snapshots: [] },
  });
  open("/folders");
  await screen.findByText("/srv/tarnwick/line-1");
  expect(await faults()).toEqual([]);
});

test.each(MODES)("what is under way can be followed by everybody, %s", async (mode) => {
  localStorage.setItem("kavrin.mode", mode);
  const { ended, ...begun } = job({});
  answering({
    "/api/jobs": [
      { ...begun, state: "RUNNING", progress: 0.3, words: "Writing carriage-02.glb" },
      { ...begun, id: "00000000-0000-7000-e000-000000000002", ended },
    ],
  });
  open("/under-way");
  await screen.findByRole("progressbar");
  expect(await faults()).toEqual([]);
});

test("nothing to recover says what to do next time", async () => {
  answering({ [`/api/documents/${document(1).id}/recovery`]: recovery() });
  open(`/recover/${document(1).id}`);
  expect(
    await screen.findByText(/For next time: switch the program's own copies on/),
  ).toBeDefined();
  expect(await faults()).toEqual([]);
});
