// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import {
  CLOSED,
  OPEN,
  ago,
  candidate,
  document,
  incident,
  job,
  overview,
  project,
  receipt,
  recovery,
  restorePreview,
} from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const ID = document(1).id;
const AT = `/api/documents/${ID}`;
const CRASH = incident();

function afterACrash(more: Parameters<typeof answering>[0] = {}) {
  answering({
    "/api/overview": overview(
      project({ documents: [document(1, { incident: CRASH, lostSeconds: 660 })] }),
    ),
    [`${AT}/recovery`]: recovery({
      incident: CRASH,
      candidates: [
        candidate(1),
        candidate(2, { kind: "LIVE", verdict: "DAMAGED", words: "Damaged: cut short at 61 %" }),
      ],
      recommended: "v1",
      lostSeconds: 660,
    }),
    [`${AT}/restores/preview`]: restorePreview(),
    [`GET ${AT}/restores`]: [],
    [`${AT}/versions/v1/as-of`]: { rows: [] },
    ...more,
  });
  return open(`/recover/${ID}`);
}

const restore = async () => within(await screen.findByRole("region", { name: "Restore" }));

test("the loss stands first, then the copy that has the rest, then why", async () => {
  afterACrash();
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toMatch(/^You lost 11 minutes\. Copy 1, from .*, has all the rest\.$/);
  expect(screen.getByText(/its lock file was left behind\.$/)).toBeDefined();
  expect(screen.getByText("Damaged: cut short at 61 %")).toBeDefined();
});

test("from crash to proven file it is one press, and one more takes it back", async () => {
  const { user } = afterACrash({
    [`POST ${AT}/restores`]: job(receipt()),
    [`POST /api/restores/${receipt().id}/undo`]: job(receipt({ mode: "undo" })),
  });
  const panel = await restore();
  await user.click(await panel.findByRole("button", { name: "Put aside and replace" }));
  expect(await panel.findByText("Restored and read back.")).toBeDefined();
  const sent = asked.find((a) => a.what === `POST ${AT}/restores`)?.sent;
  expect(sent).toEqual({ state: "v1", mode: "REPLACE", digest: restorePreview().digest });
  await user.click(panel.getByRole("button", { name: "Undo: swap the two files back" }));
  expect(await panel.findByText("Undone.")).toBeDefined();
});

test("a file that is open is said to be so before it is replaced", async () => {
  afterACrash({ [`${AT}/restores/preview`]: restorePreview({ open: OPEN }) });
  expect(
    await (await restore()).findByText(/The file is open here\. Close it first/),
  ).toBeDefined();
});

test("open on another machine is told, and closed is not", async () => {
  afterACrash({
    [`${AT}/restores/preview`]: restorePreview({
      open: {
        ...CLOSED,
        state: "ELSEWHERE",
        evidence: ["its lock file names the machine drafting-2"],
      },
    }),
  });
  const panel = await restore();
  expect(await panel.findByText(/open on another machine/)).toBeDefined();
  expect(panel.getByText(/names the machine drafting-2\./)).toBeDefined();
});

test("without room nothing can be restored there, and the ways out are told", async () => {
  afterACrash({ [`${AT}/restores/preview`]: restorePreview({ fits: false, free: 1_000_000 }) });
  const panel = await restore();
  expect(await panel.findByText(/^Not enough room: 2\.9 MB are needed/)).toBeDefined();
  expect(panel.getByRole("button", { name: "Put aside and replace" })).toHaveProperty(
    "disabled",
    true,
  );
});

test("a file that changed meanwhile is told in the service's words, and nothing is done", async () => {
  const { user } = afterACrash({
    [`POST ${AT}/restores`]: () =>
      problem(409, "changed", "The present file was written meanwhile. Nothing was changed."),
  });
  const panel = await restore();
  await user.click(await panel.findByRole("button", { name: "Put aside and replace" }));
  expect(await panel.findByText(/was written meanwhile\. Nothing was changed\./)).toBeDefined();
});

test("an unsaved close is one question, answered with one press", async () => {
  const closed = incident({ kind: "closed", evidence: ["an autosave is newer than the file"] });
  const answer = `/api/projects/${CRASH.project}/incidents/${CRASH.id}/answer`;
  const { user } = afterACrash({
    [`${AT}/recovery`]: recovery({
      incident: closed,
      candidates: [candidate(1)],
      recommended: "v1",
    }),
    [`POST ${answer}`]: {},
  });
  await user.click(await screen.findByRole("button", { name: "I closed it" }));
  await waitFor(() => expect(asked.some((a) => a.what.endsWith("/answer"))).toBe(true));
  expect(asked.find((a) => a.what.endsWith("/answer"))?.sent).toMatchObject({ crash: false });
});

test("nothing whole is said plainly, with all that is left", async () => {
  afterACrash({
    [`${AT}/recovery`]: recovery({
      incident: CRASH,
      candidates: [candidate(1, { verdict: "DAMAGED", words: "Damaged: empty" })],
    }),
  });
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toBe("Nothing whole was found. Here is all that is left.");
});

test("many copies are shown by and by", async () => {
  const many = Array.from({ length: 90 }, (_, i) => candidate(i + 1, { work: ago(i) }));
  const { user } = afterACrash({
    [`${AT}/recovery`]: recovery({ incident: CRASH, candidates: many, recommended: "v1" }),
  });
  const list = within(await screen.findByRole("region", { name: "What survived, best first" }));
  expect(list.getAllByRole("button", { pressed: false }).length).toBeLessThan(45);
  await user.click(list.getByRole("button", { name: "show more, 50 are left" }));
  expect(list.getByRole("button", { name: "show more, 10 are left" })).toBeDefined();
});
