// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { BagReport, BundledFile, BundleView, PackedFile } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { PROJECT, ago, document, overview, version, versions } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const DOC = document(1).id;

const file = (path: string, changes: Partial<PackedFile> = {}): PackedFile => ({
  path,
  original: path,
  kind: "document",
  size: 2_900_000,
  asNow: false,
  document: DOC,
  source: `/srv/tarnwick/carriage/${path}`,
  cannot: [],
  names: {},
  ...changes,
});

const bundle = (changes: Partial<BundleView> = {}): BundleView => ({
  folder: "/mnt/out/carriage",
  bytes: 3_000_000,
  done: 3_000_000,
  goesOn: false,
  stage: "DONE",
  started: ago(1),
  ...changes,
});

function opened(files: PackedFile[], more: Parameters<typeof answering>[0] = {}) {
  answering({
    [`/api/documents/${DOC}/versions`]: versions([version(1)]),
    "/api/bundles/preview": { bytes: 0, files, missing: {} },
    "GET /api/bundles": {},
    ...more,
  });
  return open(`/pack/${DOC}`);
}

const packed = () => asked.find((a) => a.what === "POST /api/bundles")?.sent;

test("what goes along is listed with what it will be called, and counted", async () => {
  opened([
    file("carriage-01.glb", { names: { "/srv/old/panel.png": "pictures/panel.png" } }),
    file("pictures/panel.png", { original: "../old/panel.png", kind: "linked", size: 100_000 }),
  ]);
  expect(await screen.findByText("Pack carriage-01.glb: 2 files, 3.0 MB")).toBeDefined();
  expect(
    screen.getByText("will name pictures/panel.png instead of /srv/old/panel.png"),
  ).toBeDefined();
  expect(screen.getByText("is called ../old/panel.png here")).toBeDefined();
  expect(screen.getByText("linked file")).toBeDefined();
});

test("it is packed where one says, with notes, and marked only if one wants it", async () => {
  const { user } = opened([file("carriage-01.glb")], { "POST /api/bundles": bundle() });
  const pack = await screen.findByRole("button", { name: "Pack 2.9 MB" });
  expect(pack).toHaveProperty("disabled", true);
  await user.type(screen.getByLabelText(/^Into the folder/), "/mnt/out/carriage");
  await user.type(screen.getByLabelText("Notes"), "for the inspector");
  await user.type(screen.getByLabelText("Open questions"), "which bell?");
  answering({ "GET /api/bundles": { bundle: bundle() } });
  await user.click(screen.getByRole("button", { name: "Pack 2.9 MB" }));
  await waitFor(() => expect(packed()).toBeDefined());
  expect(packed()).toEqual({
    choices: [{ document: DOC, state: version(1).id }],
    folder: "/mnt/out/carriage",
    allowed: [],
    name: "carriage-01.glb",
    note: "for the inspector",
    questions: "which bell?",
    mark: "",
  });
  expect(await screen.findByText("Done.")).toBeDefined();
  expect(screen.getByText("/mnt/out/carriage")).toBeDefined();
});

test("what lies outside, or by its name holds a secret, goes along only if ticked", async () => {
  const { user } = opened(
    [
      file("carriage-01.glb"),
      file("keys/office.key", { kind: "linked", size: 1_000, ask: "secret" }),
      file("hall.png", {
        kind: "linked",
        size: 100_000,
        ask: "outside",
        original: "/home/hall.png",
      }),
    ],
    { "POST /api/bundles": bundle() },
  );
  expect(await screen.findByText("Pack carriage-01.glb: 1 file, 2.9 MB")).toBeDefined();
  await user.click(screen.getByRole("checkbox", { name: "lies outside the project: include it" }));
  expect(await screen.findByText("Pack carriage-01.glb: 2 files, 3.0 MB")).toBeDefined();
  await user.type(screen.getByLabelText(/^Into the folder/), "/mnt/out/x.zip");
  await user.click(screen.getByRole("button", { name: "Pack 3.0 MB" }));
  await waitFor(() => expect(packed()).toMatchObject({ allowed: ["/home/hall.png"] }));
});

test("what nobody has is said, and the rest is packed all the same", async () => {
  opened([], {
    "/api/bundles/preview": {
      bytes: 2_900_000,
      files: [file("carriage-01.glb", { cannot: ["panel.png"], asNow: true })],
      missing: { "carriage-01.glb": ["panel.png", "roof.png"] },
    },
  });
  expect(
    await screen.findByText(/carriage-01\.glb uses panel\.png, roof\.png, which nobody has/),
  ).toBeDefined();
  expect(screen.getByText(/goes on naming panel\.png, which will not be there/)).toBeDefined();
  expect(screen.getByText("as it is now")).toBeDefined();
});

test("one under way shows how far it is and can be stopped", async () => {
  const { user } = opened([file("carriage-01.glb")], {
    "GET /api/bundles": { bundle: bundle({ stage: "RUNNING", done: 1_000_000 }) },
  });
  expect(await screen.findByText(/Under way: 1\.0 MB of 3\.0 MB/)).toBeDefined();
  const stopped = { bundle: bundle({ stage: "CANCELLED", done: 1_000_000 }) };
  answering({ "DELETE /api/bundles": stopped, "GET /api/bundles": stopped });
  await user.click(screen.getByRole("button", { name: "Stop" }));
  expect(await screen.findByText(/the same order goes on from there/)).toBeDefined();
});

test("one that failed says why; one that goes on says that it reads again", async () => {
  opened([file("carriage-01.glb")], {
    "GET /api/bundles": { bundle: bundle({ stage: "FAILED", problem: "The drive is full." }) },
  });
  expect(await screen.findByText("Not finished.")).toBeDefined();
  expect(screen.getByText("The drive is full.")).toBeDefined();
});

const report = (changes: Partial<BagReport> = {}): BagReport => ({
  altered: [],
  complete: true,
  extra: [],
  faults: [],
  fetched: [],
  info: {},
  missing: [],
  payload: ["data/carriage-01.glb", "data/panel.png"],
  valid: true,
  version: "1.0",
  ...changes,
});

async function checked(said: BagReport, files: BundledFile[] = [], path = "/mnt/in/bag") {
  const { user } = opened([file("carriage-01.glb")], {
    "POST /api/bundles/check": said,
    "POST /api/bundles/contents": files,
    "/api/archives": { files: 0 },
  });
  await user.type(await screen.findByLabelText("Folder of the bundle"), path);
  await user.click(screen.getByRole("button", { name: "Check" }));
  return user;
}

test("a bundle somebody sent is checked digest by digest", async () => {
  await checked(report());
  expect((await screen.findByTestId("bag")).textContent).toContain(
    "Complete and valid: 2 files, every digest is right.",
  );
});

test("what was altered, is missing or came in is named", async () => {
  await checked(
    report({
      valid: false,
      altered: ["data/carriage-01.glb"],
      extra: Array.from({ length: 10 }, (_, n) => `data/extra-${n}`),
    }),
  );
  const bag = await screen.findByTestId("bag");
  expect(bag.textContent).toContain("Complete, but not as it was packed.");
  expect(bag.textContent).toContain("Altered: data/carriage-01.glb");
  expect(bag.textContent).toContain("data/extra-7 and 2 more");
  expect(bag.textContent).not.toContain("data/extra-8");
});

test("its files are found among the versions here, or taken in where they fit", async () => {
  const fits: BundledFile = {
    path: "carriage-01.glb",
    size: 2_900_000,
    fits: DOC,
    fitsPath: document(1).path,
    work: ago(500),
  };
  const user = await checked(report(), [
    { path: "carriage-02.glb", size: 1, holder: document(2).id, holderPath: document(2).path },
    fits,
    { path: "unknown.glb", size: 1 },
  ]);
  expect(await screen.findByText(/^Among the versions of .*carriage-2\.glb/)).toBeDefined();
  expect(screen.getByText("No document of that name is kept here.")).toBeDefined();
  answering({
    "POST /api/bundles/take-in": [{ ...fits, holder: DOC, holderPath: document(1).path }],
  });
  await user.click(screen.getByRole("button", { name: "Import it" }));
  expect(await screen.findByText(/^Among the versions of .*carriage-1\.glb/)).toBeDefined();
  expect(asked.find((a) => a.what === "POST /api/bundles/take-in")?.sent).toEqual({
    folder: "/mnt/in/bag",
    path: "carriage-01.glb",
    document: DOC,
  });
});

test("a ZIP is checked as well, and only a folder can be worked on from", async () => {
  await checked(report(), [{ path: "unknown.glb", size: 1 }], "/mnt/in/bag.zip");
  await screen.findByTestId("bundled");
  expect(screen.queryByRole("button", { name: /Work on from here/ })).toBeNull();
});

test("a folder that is no bag is told in the service's words", async () => {
  const { user } = opened([file("carriage-01.glb")], {
    "POST /api/bundles/check": () => problem(422, "no-bag", "There is no bagit.txt in it."),
  });
  await user.type(await screen.findByLabelText("Folder of the bundle"), "/mnt/in");
  await user.click(screen.getByRole("button", { name: "Check" }));
  expect(await screen.findByText(/There is no bagit\.txt in it/)).toBeDefined();
  expect(screen.queryByTestId("bag")).toBeNull();
});

test("without a document a bundle can still be checked", async () => {
  answering({ "/api/overview": overview(), "GET /api/bundles": {} });
  open("/pack");
  expect(await screen.findByText("No document yet")).toBeDefined();
  expect(screen.getByLabelText("Folder of the bundle")).toBeDefined();
});

test("all of a project goes as it stands now, linked files by their documents", async () => {
  const row = (n: number, linked: boolean) => ({
    document: document(n).id,
    name: document(n).name,
    choices: [],
    everSaved: true,
    linked,
    present: "x",
    run: false,
    state: `v${n}`,
    why: "",
  });
  const { user } = opened([file("carriage-01.glb")], {
    [`/api/projects/${PROJECT.id}/as-of`]: {
      asOf: ago(0),
      name: "Carriage",
      project: PROJECT.id,
      rows: [row(1, false), row(2, false), row(3, true)],
    },
  });
  await user.click(await screen.findByRole("radio", { name: "all of Carriage" }));
  await waitFor(() => {
    const last = asked.filter((a) => a.what === "POST /api/bundles/preview").at(-1);
    expect(last?.sent).toEqual({
      choices: [
        { document: document(1).id, state: "v1" },
        { document: document(2).id, state: "v2" },
      ],
    });
  });
});
