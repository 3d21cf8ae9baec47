// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Proof, RehearsalsView, RehearsalView } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { PROJECT, ago, document, job, overview } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const AT = `/api/documents/${document(1).id}/recovery-tests`;

const proof = (changes: Partial<Proof> = {}): Proof => ({
  by: "stand-in",
  way: "in the middle of a save",
  held: true,
  actual: "PT4M",
  promised: "PT22M",
  predicted: "PT4M",
  took: "PT3S",
  plan: "every 10 min",
  told: "",
  from: "AUTOSAVE carriage-01~2.tmp",
  verdict: "INTACT",
  parts: 2,
  ...changes,
});

const record = (n: number, changes: Partial<Proof> = {}): RehearsalView => ({
  id: `00000000-0000-7000-f000-${String(n).padStart(12, "0")}`,
  made: ago(n * 60),
  who: "Ilse Quarn",
  proof: proof(changes),
});

const tests = (changes: Partial<RehearsalsView> = {}): RehearsalsView => ({
  done: [],
  proven: { asks: true, words: "Carriage was never tested" },
  ways: [
    { way: "IDLE", words: "killed at rest" },
    { way: "MID_SAVE", words: "killed in the middle of a save" },
    { way: "DRIVE_GONE", words: "its drive is pulled" },
  ],
  ...changes,
});

function opened(said: RehearsalsView | (() => Response)) {
  answering({ [AT]: said });
  return open(`/recovery-test/${document(1).id}`);
}

test("a plan never proven says so, and the first test is one key away", async () => {
  const { user } = opened(tests());
  expect(await screen.findByText("Carriage was never tested")).toBeDefined();
  expect(screen.getByText(/No recovery test was made with carriage-01\.glb yet/)).toBeDefined();
  answering({ [`POST ${AT}`]: job(record(0)) });
  await user.keyboard("x");
  const outcome = await screen.findByTestId("proof");
  expect(outcome.textContent).toContain("It came back; 4 minutes of work were lost.");
  expect(outcome.textContent).toContain("2parts differ");
  expect(asked.find((a) => a.what === `POST ${AT}`)?.sent).toEqual({ way: "MID_SAVE" });
});

test("it fails in the way that is chosen", async () => {
  const { user } = opened(tests());
  answering({ [`POST ${AT}`]: job(record(0, { way: "its drive is pulled" })) });
  await user.click(await screen.findByRole("radio", { name: "its drive is pulled" }));
  await user.click(screen.getByRole("button", { name: /^Crash a copy/ }));
  await screen.findByTestId("proof");
  expect(asked.find((a) => a.what === `POST ${AT}`)?.sent).toEqual({ way: "DRIVE_GONE" });
});

test("all of them stand with their dates, the newest in full; what failed is not hidden", async () => {
  const nothing = proof({ held: false, told: "No copy was whole." });
  delete nothing.actual;
  delete nothing.parts;
  opened(
    tests({
      proven: { asks: false, at: ago(120), words: "Tested." },
      done: [
        { ...record(2), proof: nothing },
        record(26, { by: "unattended", way: "restored aside" }),
      ],
    }),
  );
  const outcome = await screen.findByTestId("proof");
  expect(outcome.textContent).toContain("✕ Nothing that can be trusted came back.");
  expect(outcome.textContent).toContain("No copy was whole.");
  expect(within(outcome).getByText("all of it")).toBeDefined();
  const rows = screen.getAllByRole("row").slice(1);
  expect(rows).toHaveLength(2);
  expect(rows[0]?.textContent).toMatch(/Ilse Quarn, stand-in.*no$/);
  expect(rows[1]?.textContent).toMatch(/restored aside.*yes$/);
  expect(screen.getByText(/Carriage was proven/)).toBeDefined();
});

test("unattended: the newest backups are read whole, now, when somebody asks", async () => {
  const { user } = opened(tests());
  answering({ [`POST ${AT}/unattended`]: record(0, { by: "unattended" }) });
  await user.click(await screen.findByRole("button", { name: "Do that now" }));
  expect((await screen.findByTestId("proof")).textContent).toContain(
    "The newest backup was restored whole.",
  );
});

test("one's own program is guided step by step, by what is seen of it", async () => {
  const { user } = opened(tests());
  const begun = { id: "g", began: ago(1), programRuns: false };
  const begin = await screen.findByRole("button", { name: "Begin" });
  answering({ [`POST ${AT}/guided`]: begun, [AT]: tests({ going: begun }) });
  await user.click(begin);
  const current = () => window.document.querySelector("[aria-current=step]")?.textContent;
  await waitFor(() => expect(current()).toContain("change something. Do not save."));
  answering({ [AT]: tests({ going: { ...begun, programRuns: true } }) });
  await waitFor(() => expect(current()).toContain("Wait until it makes a copy"), { timeout: 5000 });
  const wrote = { ...begun, programRuns: true, wrote: ago(0), wroteWhat: "/srv/x~1.tmp" };
  answering({ [AT]: tests({ going: wrote }) });
  await waitFor(() => expect(current()).toContain("Now kill it"), { timeout: 5000 });
  expect(screen.getByRole("button", { name: "Record what came back" })).toHaveProperty(
    "disabled",
    true,
  );
  const gone = {
    id: "i",
    project: PROJECT.id,
    documents: [document(1).id],
    from: ago(1),
    to: ago(0),
    kind: "crash",
    evidence: [],
    open: true,
  };
  answering({
    [AT]: tests({ going: { ...wrote, programRuns: false, gone } }),
    [`POST ${AT}/guided/end`]: record(0, { by: "own program" }),
  });
  await waitFor(
    () =>
      expect(screen.getByRole("button", { name: "Record what came back" })).toHaveProperty(
        "disabled",
        false,
      ),
    { timeout: 5000 },
  );
  await user.click(screen.getByRole("button", { name: "Record what came back" }));
  await waitFor(() => expect(asked.some((a) => a.what === `POST ${AT}/guided/end`)).toBe(true));
});

test("a test that cannot be made says why, and the page stays", async () => {
  const { user } = opened(tests());
  answering({
    [`POST ${AT}`]: () => problem(409, "no-copy", "There is no backup to play with yet."),
  });
  await user.click(await screen.findByRole("button", { name: /^Crash a copy/ }));
  expect(await screen.findByText(/There is no backup to play with yet/)).toBeDefined();
  expect(screen.getAllByRole("radio")).toHaveLength(3);
});

test("without a document it leads to the first day", async () => {
  answering({ "/api/overview": overview() });
  open("/recovery-test");
  expect(await screen.findByText("No document yet")).toBeDefined();
});
