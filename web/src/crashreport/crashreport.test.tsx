// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Closing } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { PLAN, PROJECT, ago, document, receipt } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const INCIDENT = "00000000-0000-7000-b000-000000000001";
const AT = `/api/projects/${PROJECT.id}/incidents/${INCIDENT}/crash-report`;

const report = (changes: Partial<Closing> = {}): Closing => ({
  program: "Tarn Modeller",
  writesEverySeconds: 600,
  incident: {
    id: INCIDENT,
    project: PROJECT.id,
    documents: [document(1).id],
    from: ago(12),
    to: ago(10),
    kind: "crash",
    evidence: ["its lock file stayed", "a rescue file appeared"],
    open: false,
  },
  documents: [
    {
      document: document(1).id,
      name: "carriage-01.glb",
      lostSeconds: 660,
      opened: "opens",
      work: ago(21),
      receipt: receipt(),
      hindsight: {
        kind: "INTERVAL",
        toSeconds: 240,
        lostSeconds: 180,
        savedSeconds: 480,
        plan: { ...PLAN, interval: "PT4M" },
      },
    },
    { document: document(2).id, name: "carriage-02.glb" },
  ],
  ...changes,
});

function opened(said: Closing | (() => Response)) {
  answering({ [AT]: said, [`/api/projects/${PROJECT.id}`]: PROJECT });
  return open(`/crash-report/${document(1).id}?incident=${INCIDENT}`);
}

test("what was lost stands first, then what came back, and why", async () => {
  opened(report());
  const head = await screen.findByRole("heading", { level: 1 });
  expect(head.textContent).toBe("11 minutes were lost in the end; all the rest is back");
  expect(screen.getByText(/1 of 2 documents restored/)).toBeDefined();
  const lines = screen.getAllByRole("listitem");
  const back = lines.find((l) => l.textContent.includes("carriage-01.glb"));
  const left = lines.find((l) => l.textContent.includes("carriage-02.glb"));
  expect(back?.textContent).toContain("11 minutes lost");
  expect(back?.textContent).toContain("and it opens");
  expect(left?.textContent).toContain("nothing restored");
  expect(left?.textContent).toContain("the file stands as the crash left it");
  expect(
    screen.getByText(/its lock file stayed; a rescue file appeared\. Tarn Modeller writes a copy/),
  ).toBeDefined();
});

test("the one change that saves most is a press away, against the version that was read", async () => {
  const { user } = opened(report());
  const change = await screen.findByTestId("hindsight");
  expect(change.textContent).toContain(
    "A backup at most 4 minutes after a change would have saved 8 minutes of this.",
  );
  expect(change.textContent).toContain("3 minutes would have been lost instead of 11 minutes.");
  answering({ [`PUT /api/projects/${PROJECT.id}`]: PROJECT });
  await user.click(within(change).getByRole("button", { name: "Change the plan so" }));
  await screen.findByText("The plan is changed.");
  const put = asked.find((a) => a.what === `PUT /api/projects/${PROJECT.id}`);
  expect(put?.sent).toMatchObject({ plan: { interval: "PT4M" } });
});

test("a document with a plan of its own is changed alone", async () => {
  const own = { ...PROJECT, exceptions: { [document(1).id]: PLAN } };
  const { user } = opened(report());
  answering({
    [`/api/projects/${PROJECT.id}`]: own,
    [`PUT /api/documents/${document(1).id}/plan`]: own,
  });
  await user.click(await screen.findByRole("button", { name: "Change the plan so" }));
  await waitFor(() =>
    expect(asked.some((a) => a.what === `PUT /api/documents/${document(1).id}/plan`)).toBe(true),
  );
});

test("what the program itself should do leads to its settings", async () => {
  const said = report();
  const [line] = said.documents;
  opened({
    ...said,
    documents: [
      {
        ...(line as (typeof said.documents)[number]),
        hindsight: { kind: "PROGRAM_WRITES", toSeconds: 300, lostSeconds: 300, savedSeconds: 360 },
      },
    ],
  });
  const change = await screen.findByTestId("hindsight");
  expect(change.textContent).toContain("Tarn Modeller saving a copy of its own every 5 minutes");
  expect(
    within(change).getByRole("button", { name: "Put Tarn Modeller's own setting right" }),
  ).toBeDefined();
});

test("where no change would have saved a minute it says so", async () => {
  const said = report();
  said.documents.forEach((line) => delete line.hindsight);
  opened(said);
  expect(await screen.findByText(/No single change of plan would have saved/)).toBeDefined();
});

test("nothing restored is said as that", async () => {
  opened(report({ documents: [{ document: document(2).id, name: "carriage-02.glb" }] }));
  expect(await screen.findByText("Nothing was restored from this crash")).toBeDefined();
  expect(screen.queryByTestId("hindsight")).toBeNull();
});

test("a crash nobody knows leads back", async () => {
  const { user } = opened(() => problem(404, "absent", "There is no such incident."));
  expect(await screen.findByText("There is no such crash")).toBeDefined();
  expect(screen.getByText(/There is no such incident/)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "To the overview" }));
  await waitFor(() => expect(screen.queryByText("There is no such crash")).toBeNull());
});

test("a plan that somebody changed meanwhile stays, and says so", async () => {
  const { user } = opened(report());
  answering({
    [`PUT /api/projects/${PROJECT.id}`]: () =>
      problem(412, "changed", "Bram Odell changed it meanwhile. Nothing was changed."),
  });
  await user.click(await screen.findByRole("button", { name: "Change the plan so" }));
  expect(await screen.findByText(/Bram Odell changed it meanwhile/)).toBeDefined();
  expect(screen.queryByText("The plan is changed.")).toBeNull();
});
