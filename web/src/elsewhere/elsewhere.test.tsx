// @vitest-environment happy-dom
import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { ElsewhereView, StoreView } from "../api/elsewhere";
import { answering, asked, open, problem } from "../testing/app";
import { ago, document, PROJECT } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const RULE = { copies: 3, disks: 2, elsewhere: 1 };

const store = (changes: Partial<StoreView> = {}): StoreView => ({
  store: {
    id: "a1",
    name: "Annex",
    address: "s3://annex/tarnwick",
    begin: "carriage-01/",
    service: "https://annex.tarnwick.example",
    key: "annex.key",
    bytesPerSecond: 0,
    paused: false,
    readEvery: "PT720H",
  },
  answered: ago(1),
  copies: 12,
  bytes: 34_000_000,
  waiting: 0,
  waitingBytes: 0,
  verified: ago(3000),
  faults: [],
  ...changes,
});

const view = (
  changes: Partial<ElsewhereView["coverage"]>,
  ...stores: StoreView[]
): ElsewhereView => ({
  stores,
  coverage: {
    rule: RULE,
    met: 1,
    perhaps: 0,
    elsewhere: 1,
    siteLost: 720,
    documents: [
      {
        id: document(1).id,
        path: document(1).path,
        work: ago(40),
        coverage: { copies: 3, disks: 2, perhaps: 0, elsewhere: 1, verified: ago(30) },
        answer: "YES",
        lacks: [],
        siteSafe: ago(40),
        siteLost: 720,
      },
    ],
    ...changes,
  },
});

const AT = `/api/projects/${PROJECT.id}/elsewhere`;
const shown = (v: ElsewhereView) => {
  answering({ [AT]: v, "/api/keys": { folder: "/srv/kavrin/keys", names: ["annex.key"] } });
  return open(`/elsewhere/${document(1).id}`);
};

test("what would be lost with the site stands first, then where the copies lie", async () => {
  shown(view({}, store()));
  expect(await screen.findByRole("heading", { name: /would lose up to 12 min/ })).toBeTruthy();
  const annex = screen.getByRole("group", { name: "Annex" });
  expect(annex.textContent).toContain("12 copies, 34.0 MB");
  expect(annex.textContent).toContain("all there");
  const row = screen.getByRole("row", { name: new RegExp(document(1).path) });
  expect(row.textContent).toContain("yes");
  expect(row.textContent).toContain("checked");
});

test("without a store it is said that everything would be lost, and what to do", async () => {
  shown(
    view({
      met: 0,
      elsewhere: 0,
      siteLost: undefined,
      documents: view({}).coverage.documents.map((d) => ({
        ...d,
        coverage: { copies: 2, disks: 1, perhaps: 1, elsewhere: 0 },
        answer: "NO" as const,
        lacks: ["2 of 3 copies", "none elsewhere"],
        siteLost: undefined,
      })),
    }),
  );
  expect(await screen.findByRole("heading", { name: /would be lost whole/ })).toBeTruthy();
  expect(screen.getByText(/no: 2 of 3 copies, none elsewhere/)).toBeTruthy();
  expect(screen.getByText("1 or 2")).toBeTruthy();
  expect(screen.getByText("all of it")).toBeTruthy();
  expect(screen.getByText(/Nothing is sent elsewhere/)).toBeTruthy();
});

test("a store that does not answer is told with what waits, and its faults", async () => {
  shown(
    view(
      {},
      store({
        problem: "The service does not answer: no route",
        waiting: 3,
        waitingBytes: 9_000_000,
        faults: ["files/carriage-02.glb: Read back: it is gone, or is not what was sent."],
      }),
    ),
  );
  const annex = await screen.findByRole("group", { name: "Annex" });
  expect(annex.textContent).toContain("▲ The service does not answer: no route");
  expect(annex.textContent).toContain("3 waiting to be sent, 9.0 MB");
  expect(annex.textContent).toContain("it is gone, or is not what was sent");
});

test("a store is added by its address and a key's name, and a refusal is shown", async () => {
  const { user } = shown(view({}));
  answering({
    [`POST /api/projects/${PROJECT.id}/stores`]: () =>
      problem(503, "away", "s3://annex could not be used: There is no bucket 'annex'."),
  });
  await user.click(await screen.findByRole("button", { name: "Add a store" }));
  const dialog = await screen.findByRole("dialog");
  const send = within(dialog).getByRole("button", { name: "Ask it and send copies" });
  expect((send as HTMLButtonElement).disabled).toBe(true);
  await user.type(within(dialog).getByLabelText("Bucket, and what names begin with"), "annex/t");
  await user.type(within(dialog).getByLabelText("Address of the service"), "https://annex.example");
  await user.selectOptions(within(dialog).getByRole("combobox", { name: "Key" }), "annex.key");
  await user.click(send);
  expect(await within(dialog).findByText(/There is no bucket 'annex'/)).toBeTruthy();
  const sent = asked.find((a) => a.what.startsWith("POST") && a.what.endsWith("/stores"))?.sent;
  expect(sent).toMatchObject({
    place: { address: "s3://annex/t", service: "https://annex.example", key: "annex.key" },
    use: { paused: false, readEveryDays: 30 },
  });
});

test("sending is paused and gone on with by one press", async () => {
  const { user } = shown(view({}, store()));
  answering({
    [`PUT /api/projects/${PROJECT.id}/stores/a1`]: view(
      {},
      store({ store: { ...store().store, paused: true } }),
    ),
  });
  await user.click(await screen.findByRole("button", { name: "pause" }));
  expect(await screen.findByRole("button", { name: "go on sending" })).toBeTruthy();
  expect(asked.find((a) => a.what.startsWith("PUT"))?.sent).toMatchObject({ paused: true });
});

test("from nothing: a store is asked, a project chosen, and what came is told", async () => {
  answering({
    "/api/keys": { folder: "/srv/kavrin/keys", names: ["annex.key"] },
    "/api/browse": { path: "", folders: [] },
    "/api/stores/from": () => new Response(null, { status: 204 }),
    "POST /api/stores/look": [
      {
        begin: "carriage-01/",
        project: PROJECT.id,
        name: "Carriage",
        folder: "/srv/tarnwick/carriage",
        documents: 2,
        copies: 14,
        bytes: 40_000_000,
        newest: ago(50),
      },
    ],
    "POST /api/stores/bring-back": {
      id: "j1",
      kind: "bring-back-from-store",
      state: "DONE",
      attempt: 1,
      created: ago(1),
      ended: ago(0),
      result: {
        project: PROJECT.id,
        backups: 14,
        bytes: 40_000_000,
        files: ["/srv/tarnwick/carriage/carriage-02.glb"],
        left: [],
        failed: ["lamp.glb: no whole version of it came back"],
      },
    },
  });
  const { user } = open("/bring-back");
  await user.type(await screen.findByLabelText("Bucket, and what names begin with"), "annex");
  await user.type(screen.getByLabelText("Address of the service"), "https://annex.example");
  await user.selectOptions(await screen.findByRole("combobox", { name: "Key" }), "annex.key");
  await user.click(screen.getByRole("button", { name: "Show what it has" }));
  await user.click(await screen.findByRole("button", { name: "Choose" }));
  await user.type(screen.getByLabelText("Folder for its backups"), "/srv/tarnwick/keep");
  await user.click(screen.getByRole("button", { name: "Bring Carriage back" }));
  expect(
    await screen.findByText(/Carriage is back: 1 file written, 14 backups brought/),
  ).toBeTruthy();
  expect(screen.getByText(/no whole version of it came back/)).toBeTruthy();
  expect(asked.find((a) => a.what === "POST /api/stores/bring-back")?.sent).toMatchObject({
    begin: "carriage-01/",
    work: "/srv/tarnwick/carriage",
    recovery: "/srv/tarnwick/keep",
  });
});

test("the recovery sheet prints what is needed, and lines for what is never shown", async () => {
  const { user } = shown(view({}, store({ store: { ...store().store, seal: "annex.words" } })));
  expect((await screen.findByRole("group", { name: "Annex" })).textContent).toContain("encrypted");
  await user.click(screen.getByRole("button", { name: "Recovery sheet" }));
  expect(screen.getByText("File annex.words: passphrase=")).toBeTruthy();
  expect(screen.getByText("File annex.key: access-key=")).toBeTruthy();
  expect(
    screen.getByText(
      "./kavrin start --root FOLDER --from s3://annex/tarnwick --service https://annex.tarnwick.example --key annex.key --passphrase annex.words",
    ),
  ).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "Back to the copies" }));
  expect(screen.getByRole("button", { name: "Recovery sheet" })).toBeTruthy();
});

test("a Kavrin that was started from a store knows where it is", async () => {
  answering({
    "/api/keys": { folder: "/srv/kavrin/keys", names: ["annex.key", "annex.words"] },
    "/api/stores/from": {
      address: "s3://annex/tarnwick",
      service: "https://annex.tarnwick.example",
      key: "annex.key",
      seal: "annex.words",
    },
    "POST /api/stores/look": [],
  });
  const { user } = open("/bring-back");
  await user.click(await screen.findByRole("button", { name: "Show what it has" }));
  expect(await screen.findByText(/It has no project/)).toBeTruthy();
  expect(asked.find((a) => a.what === "POST /api/stores/look")?.sent).toEqual({
    address: "s3://annex/tarnwick",
    service: "https://annex.tarnwick.example",
    key: "annex.key",
    seal: "annex.words",
  });
});
