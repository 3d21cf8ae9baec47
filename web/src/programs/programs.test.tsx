// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { PROGRAM, PROJECT, ago, overview, project } from "../testing/fixtures";
import { inAWorld } from "../testing/world";
import type { ProgramView } from "../api/schema";

inAWorld();

const AT = `/api/projects/${PROJECT.id}/program`;

function opened(view: ProgramView | (() => Response)) {
  answering({ [AT]: view });
  return open("/programs");
}

test("no project yet says what a profile is", async () => {
  answering({ "/api/overview": overview() });
  open("/programs");
  expect(await screen.findByText("No program is known yet")).toBeDefined();
});

test("what is off stands with its key, what is there and what would be written", async () => {
  opened(PROGRAM);
  expect(await screen.findByText("autosave is off")).toBeDefined();
  expect(screen.getByText("off")).toBeDefined();
  expect(screen.getByText("yes")).toBeDefined();
  expect(screen.getByText("differs")).toBeDefined();
});

test("settings are put right against the file that was shown", async () => {
  const { user } = opened(PROGRAM);
  answering({ [`POST ${AT}/right`]: PROGRAM });
  await user.click(await screen.findByRole("button", { name: "Put it right" }));
  await waitFor(() => expect(asked.some((a) => a.what === `POST ${AT}/right`)).toBe(true));
  expect(asked.find((a) => a.what === `POST ${AT}/right`)?.sent).toEqual({
    digest: "77aa",
    insist: false,
  });
});

test("while the program runs nothing is written without insisting", async () => {
  const { user } = opened({ ...PROGRAM, runs: true });
  const put = await screen.findByRole("button", { name: "Put it right" });
  expect(put).toHaveProperty("disabled", true);
  await user.click(screen.getByRole("button", { name: /^Although .* runs$/ }));
  expect(screen.getByRole("button", { name: "Put it right" })).toHaveProperty("disabled", false);
});

test("settings that are only read are shown, and set in the program itself", async () => {
  opened({ ...PROGRAM, mayPut: false, onlyRead: true });
  expect(await screen.findByText(/only reads settings of this kind: set them in/)).toBeDefined();
  expect(screen.queryByRole("button", { name: /Put it right|Let Kavrin correct/ })).toBeNull();
});

test("a folder Kavrin may only read says so", async () => {
  opened({ ...PROGRAM, mayPut: false });
  expect(
    await screen.findByRole("button", { name: "Let Kavrin correct files in that folder" }),
  ).toBeDefined();
  expect(screen.queryByRole("button", { name: "Put it right" })).toBeNull();
});

test("settings that cannot be read are told in the service's words", async () => {
  opened(() => problem(503, "settings", "modeller.cfg cannot be read. Nothing was changed."));
  expect(
    await screen.findByText("modeller.cfg cannot be read. Nothing was changed."),
  ).toBeDefined();
});

test("a profile is corrected by hand, and a cancelled change leaves it", async () => {
  const { user } = opened({ ...PROGRAM, lines: [], linked: false, off: false });
  await user.click(await screen.findByRole("button", { name: "Edit the profile" }));
  expect(await screen.findByRole("button", { name: "Save the profile" })).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Leave it as it was" }));
  expect(screen.queryByRole("button", { name: "Save the profile" })).toBeNull();
  expect(asked.some((a) => a.what.startsWith("PUT"))).toBe(false);
});

test("what stands in a lock file and in a crash log is told by hand", async () => {
  const { user } = opened({ ...PROGRAM, lines: [], linked: false, off: false });
  await user.click(await screen.findByRole("button", { name: "Edit the profile" }));
  const write = async (label: string, text: string) => {
    await user.clear(await screen.findByLabelText(label));
    await user.type(screen.getByLabelText(label), text.replace(/[{[]/g, "$&$&"));
  };
  await write("What stands in the lock file", "{user}@{host}");
  await write("called", "session-{n}.log");
  await write("says of a crash", "fatal");
  answering({ [`PUT /api/projects/${PROJECT.id}`]: PROJECT });
  await user.click(screen.getByRole("button", { name: "Save the profile" }));
  await waitFor(() => expect(asked.some((a) => a.what.startsWith("PUT"))).toBe(true));
  expect(asked.find((a) => a.what.startsWith("PUT"))?.sent).toMatchObject({
    program: {
      lockText: "{user}@{host}",
      crashLog: { folder: ".", pattern: "session-{n}.log", words: "fatal" },
    },
  });
});

test("the loudest project stands first", async () => {
  const quiet = project({ id: "00000000-0000-7000-9000-000000000002", name: "Winding gear" });
  const loud = project({ drifts: [{ words: "autosave is off", off: true }] });
  answering({
    "/api/overview": overview(quiet, loud),
    [`/api/projects/${quiet.id}`]: { ...PROJECT, id: quiet.id, name: quiet.name },
    [`/api/projects/${quiet.id}/program`]: { ...PROGRAM, lines: [] },
  });
  opened(PROGRAM);
  const lines = await screen.findAllByText(/^for (Carriage|Winding gear)/);
  await waitFor(() => expect(screen.getAllByText(/^for /).length).toBe(2));
  expect(lines[0]?.textContent).toMatch(/^for Carriage/);
});

test("a program nobody described can be watched at work, and what was seen becomes its profile", async () => {
  const bare = {
    ...PROJECT,
    program: { name: "carriage", process: "", leftovers: [], ownFiles: [] },
  };
  const seen = {
    name: "modeller",
    process: "tarn-modeller",
    leftovers: [{ kind: "AUTOSAVE", folder: ".drafts", pattern: "{stem}~{n}.tmp" }],
    ownFiles: [],
  };
  const watch = {
    id: "w",
    folders: [PROJECT.folder],
    from: ago(2),
    goesOn: true,
    closed: false,
    cut: false,
    latest: [],
    proposed: {
      sheet: seen,
      document: "carriage-02.glb",
      documents: ["carriage-02.glb"],
      size: 2_900_000,
      rule: ["*.glb"],
      writesItself: true,
      plan: PROJECT.plan,
      clues: [
        { topic: "PROCESS", value: "tarn-modeller", seen: "it wrote the file", sure: true },
        { topic: "AUTOSAVE", value: ".drafts/{stem}~{n}.tmp", seen: "it wrote it", sure: true },
      ],
    },
  };
  answering({
    [`/api/projects/${PROJECT.id}`]: bare,
    [AT]: problem(404, "absent", "No settings file is linked."),
    "/api/watchings": watch,
    "/api/watchings/w": watch,
    [`PUT /api/projects/${PROJECT.id}`]: bare,
  });
  const { user } = open("/programs");
  expect(await screen.findByText(/Nothing is known of its program yet/)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Watch it at work" }));
  await screen.findByText(".drafts/{stem}~{n}.tmp");
  await user.click(screen.getByRole("button", { name: "Use this profile" }));
  const put = `PUT /api/projects/${PROJECT.id}`;
  await waitFor(() => expect(asked.some((a) => a.what === put)).toBe(true));
  expect(asked.find((a) => a.what === put)?.sent).toMatchObject({ program: seen });
});
