// @vitest-environment happy-dom
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { ago, document, folder, job, PROJECT } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const AT = `/api/projects/${PROJECT.id}`;

const GOING = {
  bytes: 29_000_000,
  digest: "77aa",
  drops: 9,
  lines: [
    {
      document: document(1).id,
      name: "carriage-01.glb",
      bytes: 29_000_000,
      drops: 9,
      stays: 3,
      reach: ago(9000),
      reachThen: ago(600),
    },
  ],
};

const LEFT = {
  program: "Tarn Modeller",
  programRuns: false,
  files: [
    {
      document: document(1).id,
      kind: "AUTOSAVE",
      modified: ago(90),
      name: "carriage-01~3.glb",
      path: "/srv/tarnwick/carriage/.drafts/carriage-01~3.glb",
      size: 2_900_000,
    },
  ],
};

const LAYOUT = { own: true, text: "models: *.glb", missing: ["models"], misfiled: [] };

function opened(more: Parameters<typeof answering>[0]) {
  answering({
    "/api/folders": [folder(1, { project: PROJECT.id })],
    "/api/search": { strays: [], snapshots: [] },
    "/api/room": [],
    ...more,
  });
  return open("/folders");
}

const dialog = () => screen.findByRole("dialog");

test("what would be cleaned up is told before, and done by the digest that was shown", async () => {
  const nothing = { ...GOING, drops: 0, lines: [] };
  const { user } = opened({
    [`POST ${AT}/clear-out/preview`]: (sent: unknown) =>
      JSON.stringify(sent).includes("beyondNewest") ? GOING : nothing,
    [`POST ${AT}/clear-out`]: job(GOING),
  });
  await user.click(await screen.findByRole("button", { name: "Clean up backups of Carriage" }));
  const shown = await dialog();
  expect(await within(shown).findByRole("button", { name: "Nothing to clear out" })).toHaveProperty(
    "disabled",
    true,
  );
  const newest = within(shown).getByLabelText("Newest backups that stay");
  await user.clear(newest);
  await user.type(newest, "3");
  const go = await within(shown).findByRole("button", { name: "Move 9 states to the bin" });
  expect(within(shown).getByText("9 of 12, 29.0 MB")).toBeDefined();
  expect(within(shown).getByText(/^reaches back to .*, now /)).toBeDefined();
  await user.click(go);
  await waitFor(() =>
    expect(asked.find((a) => a.what === `POST ${AT}/clear-out`)?.sent).toEqual({
      wish: { beyondNewest: 3, damaged: false, need: 0 },
      digest: "77aa",
    }),
  );
});

test("a refusal to clean up stands in the dialog, which stays", async () => {
  const { user } = opened({
    [`POST ${AT}/clear-out/preview`]: GOING,
    [`POST ${AT}/clear-out`]: () => problem(412, "changed", "More was backed up meanwhile."),
  });
  await user.click(await screen.findByRole("button", { name: "Clean up backups of Carriage" }));
  const shown = await dialog();
  await user.click(await within(shown).findByRole("button", { name: "Move 9 states to the bin" }));
  expect(await within(shown).findByText("More was backed up meanwhile.")).toBeDefined();
});

test("what the program left goes by name only, after a backup", async () => {
  const { user } = opened({
    [`POST ${AT}/clear-out/preview`]: { ...GOING, drops: 0, lines: [] },
    [`GET ${AT}/leftovers`]: LEFT,
    [`POST ${AT}/leftovers`]: job({
      cleared: 1,
      leftAlone: [{ path: "/srv/tarnwick/x.glb", words: "it changed meanwhile" }],
    }),
  });
  await user.click(await screen.findByRole("button", { name: "Clean up backups of Carriage" }));
  const details = (await screen.findByText("The program's own copies, by name")).closest(
    "details",
  ) as HTMLDetailsElement;
  details.open = true;
  fireEvent(details, new Event("toggle"));
  const name = await screen.findByRole("button", { name: "Name those that should go" });
  expect(name).toHaveProperty("disabled", true);
  await user.click(screen.getByRole("checkbox", { name: "carriage-01~3.glb" }));
  await user.click(screen.getByRole("button", { name: "Copy 1 file, then take it away" }));
  expect(await screen.findByText("1 file backed up and removed.")).toBeDefined();
  expect(screen.getByText(/x\.glb: it changed meanwhile/)).toBeDefined();
  expect(asked.find((a) => a.what === `POST ${AT}/leftovers`)?.sent).toEqual({
    files: [{ path: LEFT.files[0]?.path, modified: LEFT.files[0]?.modified }],
  });
});

test("a layout says what it would make and what lies elsewhere; nothing is moved", async () => {
  const { user } = opened({
    [`GET ${AT}/layout`]: LAYOUT,
    [`POST ${AT}/layout/preview`]: {
      ...LAYOUT,
      misfiled: [{ path: "old/lamp.glb", belongs: "models", breaks: ["station.glb"] }],
    },
    [`PUT ${AT}/layout`]: { ...LAYOUT, missing: [] },
  });
  await user.click(await screen.findByRole("button", { name: "Folder layout of Carriage" }));
  const shown = await dialog();
  expect(await within(shown).findByText("Would be made: models.")).toBeDefined();
  expect(within(shown).getByText("1 file in the wrong branch; Kavrin moves none")).toBeDefined();
  expect(within(shown).getByText("moving it breaks links of station.glb")).toBeDefined();
  await user.click(within(shown).getByRole("button", { name: "Make the folders" }));
  expect(
    await within(shown).findByText("The layout is kept and its folders are there."),
  ).toBeDefined();
  expect(within(shown).getByText("All its folders are there.")).toBeDefined();
  expect(asked.find((a) => a.what === `PUT ${AT}/layout`)?.sent).toEqual({ text: LAYOUT.text });
});

test("a layout that cannot be read says in which line", async () => {
  const { user } = opened({
    [`GET ${AT}/layout`]: LAYOUT,
    [`POST ${AT}/layout/preview`]: () => problem(422, "layout", "Line 1 has no colon."),
  });
  await user.click(await screen.findByRole("button", { name: "Folder layout of Carriage" }));
  const shown = await dialog();
  expect(await within(shown).findByText("Line 1 has no colon.")).toBeDefined();
  expect(within(shown).getByRole("button", { name: "Keep this layout" })).toHaveProperty(
    "disabled",
    true,
  );
});
