// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { AsOfRow, AsOfTable, GroupPreview, GroupView } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { OPEN, PROJECT, ago, document, job, receipt } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const AT = `/api/projects/${PROJECT.id}`;
const GROUPS = `${AT}/group-restores`;

const row = (n: number, changes: Partial<AsOfRow> = {}): AsOfRow => ({
  document: document(n).id,
  name: document(n).name,
  choices: [
    { state: `v${n}`, size: 2_900_000, verdict: "INTACT", work: ago(60) },
    { state: `older${n}`, size: 2_800_000, verdict: "DOUBTFUL", work: ago(120) },
  ],
  everSaved: true,
  linked: false,
  modified: ago(5),
  present: `now${n}`,
  run: false,
  state: `v${n}`,
  why: "newest whole version by then",
  ...changes,
});

const table = (rows: AsOfRow[], changes: Partial<AsOfTable> = {}): AsOfTable => ({
  asOf: ago(60),
  name: "Carriage",
  project: PROJECT.id,
  rows,
  ...changes,
});

const preview = (changes: Partial<GroupPreview> = {}): GroupPreview => ({
  alike: [],
  bytes: 5_800_000,
  digest: "77aa",
  fits: true,
  free: 81_200_000_000,
  items: [1, 2].map((n) => ({
    document: document(n).id,
    target: document(n).path,
    aside: `${document(n).path} put aside`,
    source: `/mnt/keep/carriage-${n}.glb`,
    bytes: 2_900_000,
  })),
  open: [],
  seconds: 1,
  ...changes,
});

const group = (changes: Partial<GroupView> = {}): GroupView => ({
  id: "00000000-0000-7000-9200-000000000001",
  made: ago(0),
  done: true,
  receipts: [receipt()],
  told: "",
  what: "as of 13:31",
  who: "Ilse Quarn",
  ...changes,
});

function opened(said: AsOfTable, more: Parameters<typeof answering>[0] = {}, query = "") {
  answering({
    [`${AT}/as-of`]: said,
    [`${GROUPS}/preview`]: preview(),
    [GROUPS]: [],
    ...more,
  });
  return open(`/recover-several/${document(1).id}${query}`);
}

const previews = () => asked.filter((a) => a.what === `POST ${GROUPS}/preview`);
const lastWishes = () => (previews().at(-1)?.sent as { wishes: unknown[] }).wishes;

test("all of a project as of a moment: what goes, why, and what it takes, before it is done", async () => {
  opened(table([row(1), row(2)]));
  expect(await screen.findByText(/^2 of 2 documents go back to /)).toBeDefined();
  expect(screen.getByText(/2 files, 5\.8 MB/).textContent).toContain("2 present files put aside.");
  expect(screen.getAllByText("newest whole version by then")).toHaveLength(2);
  expect(lastWishes()).toEqual([
    { document: document(1).id, state: "v1", mode: "REPLACE" },
    { document: document(2).id, state: "v2", mode: "REPLACE" },
  ]);
});

test("one key restores what was shown, all together, and one undo takes all back", async () => {
  const { user } = opened(table([row(1), row(2)]));
  await screen.findByText(/2 files, 5\.8 MB/);
  answering({ [`POST ${GROUPS}`]: job(group()), [GROUPS]: [group()] });
  await user.keyboard("r");
  expect(await screen.findByText(/Restored as of 13:31: 1 file, read back in full/)).toBeDefined();
  const sent = asked.find((a) => a.what === `POST ${GROUPS}`)?.sent;
  expect(sent).toMatchObject({ digest: "77aa", wishes: [{ state: "v1" }, { state: "v2" }] });
  const undone = group({
    id: "00000000-0000-7000-9200-000000000002",
    undoes: group().id,
  });
  answering({
    [`POST /api/group-restores/${group().id}/undo`]: job(undone),
    [GROUPS]: [undone, group()],
  });
  await user.click(screen.getByRole("button", { name: "undo all" }));
  expect(await screen.findByText(/Undone: as of 13:31/)).toBeDefined();
});

test("each document can have another version, another place, or stay", async () => {
  const { user } = opened(table([row(1), row(2)]));
  await screen.findByText(/2 files, 5\.8 MB/);
  await user.selectOptions(screen.getByLabelText("Version of carriage-01.glb"), "older1");
  await user.selectOptions(screen.getByLabelText("Where carriage-01.glb goes"), "BESIDE");
  await user.click(screen.getByRole("checkbox", { name: "carriage-02.glb" }));
  await waitFor(() =>
    expect(lastWishes()).toEqual([{ document: document(1).id, state: "older1", mode: "BESIDE" }]),
  );
  expect(screen.getByText("your choice")).toBeDefined();
});

test("what cannot go back is said in its line, and nothing is made up", async () => {
  const nothing = row(3, { choices: [], why: "nothing whole by then", present: "nothing" });
  delete nothing.state;
  opened(table([row(1, { present: "v1" }), row(2, { everSaved: false }), nothing]), {
    [`${GROUPS}/preview`]: preview({ alike: [document(1).id] }),
  });
  const region = await screen.findByRole("region", { name: "What goes back" });
  await within(region).findByText("is that version already");
  expect(within(region).getByText("never saved")).toBeDefined();
  expect(within(region).getByText("no file there")).toBeDefined();
  expect(within(region).getByText("stays as it is")).toBeDefined();
  expect(within(region).getAllByText("nothing to do")).toHaveLength(2);
  await screen.findByText(/1 are that version already/);
  expect(lastWishes()).toHaveLength(2);
});

test("too little room for all together stops it before it begins", async () => {
  const { user } = opened(table([row(1)]), {
    [`${GROUPS}/preview`]: preview({ fits: false, free: 800_000 }),
  });
  expect(await screen.findByText(/Not enough room for all together: clear 5\.0 MB/)).toBeDefined();
  await user.keyboard("r");
  expect(screen.getByRole("button", { name: /^Put aside and restore/ })).toHaveProperty(
    "disabled",
    true,
  );
  expect(asked.some((a) => a.what === `POST ${GROUPS}`)).toBe(false);
});

test("an open document is named before it is overwritten under its program", async () => {
  opened(table([row(1)]), {
    [`${GROUPS}/preview`]: preview({
      open: [{ target: document(1).path, open: OPEN }],
    }),
  });
  const caution = await screen.findByText(/Close carriage-1\.glb first/);
  expect(caution.textContent).toContain("modeller (process 4711, ilse) has the file open");
});

test("after a crash it is what survived of it", async () => {
  opened(
    table([row(1)], {
      incident: {
        id: "i",
        project: PROJECT.id,
        documents: [document(1).id],
        from: ago(62),
        to: ago(60),
        kind: "crash",
        evidence: [],
        open: true,
      },
    }),
    {},
    "?incident=i",
  );
  expect(await screen.findByText(/go back to what survived the crash of/)).toBeDefined();
  expect(screen.queryByText("as of")).toBeNull();
});

test("linked files go along as they were then, or stay as they are", async () => {
  const linked = row(4, { linked: true, name: "panel.png" });
  const { user } = opened(
    table([]),
    { [`/api/documents/${document(1).id}/versions/v1/as-of`]: table([row(1), linked]) },
    "?state=v1",
  );
  expect(await screen.findByText("1 linked file")).toBeDefined();
  await waitFor(() => expect(lastWishes()).toHaveLength(2));
  await user.click(screen.getByRole("radio", { name: "as they are now" }));
  await waitFor(() => expect(lastWishes()).toHaveLength(1));
});

test("a restore that is refused says why; all is as it was", async () => {
  const { user } = opened(table([row(1)]), {
    [`POST ${GROUPS}`]: () =>
      problem(409, "changed", "carriage-01.glb was written since. Nothing was changed."),
  });
  await screen.findByText(/2 files, 5\.8 MB/);
  await user.click(screen.getByRole("button", { name: /^Put aside and restore/ }));
  expect(await screen.findByText(/was written since\. Nothing was changed/)).toBeDefined();
});

test("one that was cut off is told as not done", async () => {
  opened(table([row(1)]), {
    [GROUPS]: [group({ done: false, told: "Kavrin was stopped; all is as before." })],
  });
  expect(await screen.findByText(/not done\. Kavrin was stopped; all is as before/)).toBeDefined();
  expect(screen.queryByRole("button", { name: "undo all" })).toBeNull();
});

test("a moment nobody knows anything of says so", async () => {
  opened(table([]), {
    [`${AT}/as-of`]: () => problem(404, "absent", "Nothing was backed up by then."),
  });
  expect(await screen.findByText("Nothing to go back to")).toBeDefined();
  expect(screen.getByText(/Nothing was backed up by then/)).toBeDefined();
});
