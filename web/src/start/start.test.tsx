// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { PLAN, PROJECT, ago, job, overview, project } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const WORK = "/srv/tarnwick/carriage";
const KEEP = "/mnt/keep";

const fit = (changes: object = {}) => ({
  path: KEEP,
  exists: true,
  writable: true,
  free: 81_200_000_000,
  disk: "another disk",
  faults: [],
  cautions: [],
  differences: [],
  holdsCopies: false,
  ...changes,
});

const look = (changes: object = {}) => ({
  documents: ["carriage-01.glb", "carriage-02.glb"],
  backups: 3,
  hidden: [".drafts/carriage-01~1.tmp"],
  unaddressable: 0,
  unreadable: 0,
  ...changes,
});

const WATCHED = {
  id: "w",
  folders: [WORK],
  from: ago(1),
  goesOn: true,
  closed: false,
  cut: false,
  latest: [],
  proposed: {
    sheet: { name: "carriage", process: "", leftovers: [], ownFiles: [] },
    documents: ["carriage-01.glb"],
    document: "carriage-01.glb",
    size: 2_900_000,
    rule: ["*.glb"],
    clues: [],
    writesItself: false,
    plan: PLAN,
  },
};

function opened(more: Parameters<typeof answering>[0] = {}) {
  answering({
    "/api/overview": overview(),
    "/api/browse": { path: WORK, folders: [], files: 5 },
    "/api/plans/defaults": { usual: PLAN },
    "/api/watchings": { id: "w", folders: [], latest: [] },
    "/api/projects/look": look(),
    "/api/folders/check": fit(),
    "/api/folders/proposals": [],
    ...more,
  });
  return open(`/start?folder=${WORK}`);
}

async function filled(more: Parameters<typeof answering>[0] = {}) {
  const { user } = opened(more);
  await user.type(await screen.findByLabelText("These are documents"), "*.glb");
  await user.type(await screen.findByLabelText("Backup folder"), KEEP);
  return user;
}

test("what lies in the folder is said at once, hidden files only when wanted", async () => {
  const user = await filled();
  expect(
    await screen.findByText(/^2 documents found: carriage-01\.glb, carriage-02\.glb\./),
  ).toBeDefined();
  expect(screen.getByText(/3 files beside look like a backup of them\./)).toBeDefined();
  expect(screen.queryByText(".drafts/carriage-01~1.tmp")).toBeNull();
  await user.click(screen.getByRole("button", { name: "show" }));
  expect(screen.getByText(".drafts/carriage-01~1.tmp")).toBeDefined();
});

test("the first backup is one press away, and what is sent is what was shown", async () => {
  const user = await filled({ "POST /api/projects": job(PROJECT) });
  const begin = await screen.findByRole("button", { name: "Start backing up" });
  await waitFor(() => expect(begin).toHaveProperty("disabled", false));
  answering({ "/api/overview": overview(project()) });
  await user.click(begin);
  await waitFor(() => expect(asked.some((a) => a.what === "POST /api/projects")).toBe(true));
  expect(asked.find((a) => a.what === "POST /api/projects")?.sent).toMatchObject({
    name: "carriage",
    folder: WORK,
    rule: ["*.glb"],
    recovery: KEEP,
    plan: PLAN,
  });
});

test("a folder that cannot take backups stops it, in words", async () => {
  await filled({
    "/api/folders/check": fit({ faults: ["It cannot be written."], writable: false }),
  });
  expect(await screen.findByText(/It cannot be written\./)).toBeDefined();
  expect(screen.getByRole("button", { name: "Start backing up" })).toHaveProperty("disabled", true);
});

test("backups that lie there already can be opened instead", async () => {
  const user = await filled({
    "/api/folders/check": fit({ holdsCopies: true }),
    "POST /api/projects/adopt": [],
  });
  await user.click(await screen.findByRole("button", { name: "Open its projects" }));
  await waitFor(() =>
    expect(asked.find((a) => a.what === "POST /api/projects/adopt")?.sent).toEqual({
      recovery: KEEP,
    }),
  );
});

test("a folder outside the roots is refused in the service's words", async () => {
  opened({
    "/api/browse": () =>
      problem(403, "outside", "/etc lies outside the folders Kavrin may use. Nothing was read."),
  });
  expect(await screen.findByText(/lies outside the folders Kavrin may use/)).toBeDefined();
});

test("a project that cannot be made leaves the page as it was filled", async () => {
  const user = await filled({
    "POST /api/projects": () => problem(409, "taken", "carriage is a project already."),
  });
  const begin = await screen.findByRole("button", { name: "Start backing up" });
  await waitFor(() => expect(begin).toHaveProperty("disabled", false));
  await user.click(begin);
  expect(await screen.findByText("carriage is a project already.")).toBeDefined();
  expect(screen.getByLabelText("Backup folder")).toHaveProperty("value", KEEP);
});

test("from the roots it is three presses: folder, folder, start", async () => {
  answering({
    "/api/overview": overview(),
    "/api/browse": (_: unknown, to: URL) => {
      const path = to.searchParams.get("path");
      if (!path) return { path: "", folders: ["/srv/tarnwick"], files: 0 };
      const folders = path === WORK ? [] : [WORK, "/srv/tarnwick/.hidden"];
      return { path, parent: "", folders, files: 2 };
    },
    "/api/plans/defaults": { usual: PLAN },
    "/api/watchings": WATCHED,
    "/api/watchings/w": WATCHED,
    "/api/projects/look": look(),
    "/api/folders/check": fit(),
    "/api/folders/proposals": [
      fit({ exists: false }),
      fit({ path: "/srv/tarnwick/carriage-backups", disk: "the same disk", exists: false }),
    ],
    "POST /api/projects": job(PROJECT),
  });
  const { user } = open("/start");
  await user.click(await screen.findByRole("button", { name: "/srv/tarnwick/" }));
  await user.click(await screen.findByRole("button", { name: "carriage/" }));
  expect(screen.queryByText(".hidden/")).toBeNull();
  expect(await screen.findByText(/^2 documents found/)).toBeDefined();
  const best = await screen.findByRole("radio", {
    name: /\/mnt\/keep another disk, 81\.2 GB free/,
  });
  expect(best.getAttribute("aria-checked")).toBe("true");
  const begin = await screen.findByRole("button", { name: "Start backing up" });
  await waitFor(() => expect(begin).toHaveProperty("disabled", false));
  await user.click(begin);
  await waitFor(() => expect(asked.some((a) => a.what === "POST /api/projects")).toBe(true));
  expect(asked.find((a) => a.what === "POST /api/projects")?.sent).toMatchObject({
    folder: WORK,
    rule: ["*.glb"],
    recovery: KEEP,
  });
});

test("another folder than the proposed ones can be named", async () => {
  const { user } = opened({ "/api/folders/proposals": [fit()] });
  await user.type(await screen.findByLabelText("These are documents"), "*.glb");
  const field = await screen.findByLabelText("Backup folder");
  await user.clear(field);
  await user.type(field, "/mnt/other");
  await waitFor(() =>
    expect(asked.filter((a) => a.what === "POST /api/folders/check").at(-1)?.sent).toMatchObject({
      path: "/mnt/other",
    }),
  );
});

test("nothing is typed into before the proposals are there: they would take its place", async () => {
  let tell: (folders: unknown) => void = () => undefined;
  const proposals = new Promise((resolve) => (tell = resolve));
  const { user } = opened({
    "/api/folders/proposals": async () => Response.json(await proposals),
  });
  expect(await screen.findByText("Looking for a good place…")).toBeDefined();
  expect(screen.queryByLabelText("Backup folder")).toBeNull();
  tell([fit()]);
  const field = await screen.findByLabelText("Backup folder");
  expect(field).toHaveProperty("value", KEEP);
  await user.type(field, "/deeper");
  expect(field).toHaveProperty("value", `${KEEP}/deeper`);
});

test("a folder that does not answer for a moment takes nothing out of the hands", async () => {
  let silent = false;
  const { user, client } = opened({
    "/api/browse": () =>
      silent
        ? problem(503, "silent", `${WORK} does not answer.`)
        : Response.json({ path: WORK, folders: [], files: 5 }),
  });
  const field = await screen.findByLabelText("Backup folder");
  await user.type(field, "/mnt/ot");
  silent = true;
  await client.refetchQueries({ queryKey: ["folders", WORK] });
  await user.type(field, "her");
  expect(screen.getByLabelText("Backup folder")).toHaveProperty("value", "/mnt/other");
});
