// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { LinkRow } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { PROJECT, ago, document, job, receipt } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const DOC = document(1).id;

const row = (name: string, changes: Partial<LinkRow> = {}): LinkRow => ({
  absolute: false,
  canRelink: true,
  changedBy: "",
  document: DOC,
  file: `/srv/tarnwick/carriage/pictures/${name}`,
  path: "carriage-01.glb",
  state: "v1",
  status: "FOUND",
  uri: `pictures/${name}`,
  users: [],
  ...changes,
});

const LOST = row("panel.png", { status: "MISSING", users: ["carriage-02.glb", "hall.glb"] });

const SERVING = [
  { file: "/srv/tarnwick/old/panel.png", size: 120_000, told: "", why: "the same content" },
  {
    file: "/srv/tarnwick/carriage/pictures/panel.png",
    size: 120_000,
    told: "from yesterday",
    why: "held",
    linked: document(2).id,
    state: "held-1",
  },
];

function opened(rows: LinkRow[], more: Parameters<typeof answering>[0] = {}) {
  answering({
    [`/api/projects/${PROJECT.id}/links`]: rows,
    [`/api/documents/${DOC}/link-candidates`]: SERVING,
    ...more,
  });
  return open(`/links/${DOC}`);
}

const written = (unequal: string[] = []) => ({
  id: "00000000-0000-7000-9100-000000000001",
  renamed: [{ from: "pictures/panel.png", to: "../old/panel.png", places: 3 }],
  unequal,
});

test("what is missing is said first and chosen first, with what may serve", async () => {
  opened([row("roof.png"), LOST]);
  expect(await screen.findByText("1 file Carriage uses is missing")).toBeDefined();
  expect(await screen.findByText("The same content")).toBeDefined();
  expect(screen.getByText(/2 other documents use it: carriage-02\.glb, hall\.glb\./)).toBeDefined();
  const lost = screen.getAllByRole("row").find((r) => r.textContent.includes("panel.png"));
  expect(lost?.getAttribute("aria-selected")).toBe("true");
  expect(lost?.textContent).toContain("missing");
});

test("another file is chosen, written to the side, proven, and only then put in place", async () => {
  const { user } = opened([LOST], {
    [`POST /api/documents/${DOC}/relinks/preview`]: written(),
    [`POST /api/documents/${DOC}/part-restores`]: job(receipt()),
  });
  const choice = await screen.findByRole("radio", { name: "Use it" });
  await user.click(choice);
  expect(await screen.findByText(/all but these names is what it was/)).toBeDefined();
  expect(asked.find((a) => a.what.endsWith("/relinks/preview"))?.sent).toEqual({
    choices: [{ uri: LOST.uri, file: SERVING[0]?.file }],
  });
  expect(screen.getByText("becomes /srv/tarnwick/old/panel.png")).toBeDefined();
  const put = screen
    .getAllByRole("button")
    .find((b) => /replace/i.test(b.textContent) && !b.hasAttribute("disabled"));
  await user.click(put as HTMLElement);
  await waitFor(() =>
    expect(asked.find((a) => a.what.endsWith("/part-restores"))?.sent).toEqual({
      id: written().id,
      mode: "REPLACE",
    }),
  );
});

test("what does not read back as it should is not put in place", async () => {
  const { user } = opened([LOST], {
    [`POST /api/documents/${DOC}/relinks/preview`]: written(["Body/Door differs"]),
  });
  await user.click(await screen.findByRole("radio", { name: "Use it" }));
  expect(
    await screen.findByText(/not as it should be: Body\/Door differs\. Nothing/),
  ).toBeDefined();
  const puts = screen.getAllByRole("button").filter((b) => /replace/i.test(b.textContent));
  expect(puts.every((b) => b.hasAttribute("disabled"))).toBe(true);
});

test("the copy Kavrin has is brought back to where the file was, against what was shown", async () => {
  const linked = document(2).id;
  const { user } = opened([LOST], {
    [`POST /api/documents/${linked}/restores/preview`]: { digest: "77aa" },
    [`POST /api/documents/${linked}/restores`]: job(receipt({ target: LOST.file })),
  });
  await user.click(await screen.findByRole("button", { name: "Bring it back" }));
  await waitFor(() =>
    expect(asked.find((a) => a.what === `POST /api/documents/${linked}/restores`)?.sent).toEqual({
      state: "held-1",
      mode: "REPLACE",
      digest: "77aa",
    }),
  );
});

test("a folder that moved chooses for all at once", async () => {
  const second = row("roof.png", { status: "MISSING" });
  const { user } = opened([LOST, second], {
    [`POST /api/projects/${PROJECT.id}/links/rule`]: [LOST, second].map((r) => ({
      document: r.document,
      uri: r.uri,
      file: `/mnt/new/${r.uri}`,
    })),
    [`POST /api/documents/${DOC}/relinks/preview`]: written(),
  });
  const from = await screen.findByLabelText<HTMLInputElement>("What lay in");
  expect(from.value).toBe("/srv/tarnwick/carriage/pictures");
  const find = screen.getByRole("button", { name: "Find them" });
  expect(find).toHaveProperty("disabled", true);
  await user.type(screen.getByLabelText("lies now in"), "/mnt/new/pictures");
  await user.click(find);
  expect(await screen.findByText("2 links found there and chosen.")).toBeDefined();
  expect(screen.getByText("2 other names in 1 document")).toBeDefined();
});

test("kinds Kavrin cannot write names into say what is left to do", async () => {
  opened([{ ...LOST, canRelink: false }]);
  expect(await screen.findByText(/cannot write names into files of this kind/)).toBeDefined();
  expect(await screen.findByRole("radio", { name: "Use it" })).toHaveProperty("disabled", true);
});

test("one looks in another folder, and it says when nothing there is like it", async () => {
  const { user } = opened([LOST], {
    [`/api/documents/${DOC}/link-candidates`]: (_: unknown, to: URL) =>
      to.searchParams.get("in") === "/mnt/attic" ? [] : SERVING,
  });
  await user.type(await screen.findByLabelText("Look in another folder"), "/mnt/attic{Enter}");
  expect(await screen.findByText("Nothing in /mnt/attic is like it.")).toBeDefined();
});

test("a whole path of a file that is there can become a relative one", async () => {
  const whole = row("roof.png", {
    absolute: true,
    uri: "/srv/tarnwick/carriage/pictures/roof.png",
  });
  const { user } = opened([whole], {
    [`POST /api/documents/${DOC}/relinks/preview`]: written(),
  });
  await user.click(await screen.findByRole("button", { name: "Name it by a relative path" }));
  await waitFor(() =>
    expect(asked.find((a) => a.what.endsWith("/relinks/preview"))?.sent).toEqual({
      choices: [{ uri: whole.uri, file: whole.file }],
    }),
  );
});

test("this document's alone, the project's again, and nothing where nothing is named", async () => {
  const others = row("hall.png", { document: document(2).id, path: "carriage-02.glb" });
  const changed = row("roof.png", {
    status: "CHANGED",
    changed: ago(90),
    changedBy: "Tove Asgrim",
  });
  const { user } = opened([changed, others]);
  expect(await screen.findByText("All is there; 1 file is not what it was")).toBeDefined();
  const table = screen.getByRole("region", { name: "Links" });
  expect(within(table).getAllByRole("row")).toHaveLength(3);
  await user.click(screen.getByRole("radio", { name: "this document" }));
  await waitFor(() => expect(within(table).getAllByRole("row")).toHaveLength(2));
  expect(within(table).getByText(/by Tove Asgrim/)).toBeDefined();
});

test("documents that name nothing say so; what cannot be looked up is told", async () => {
  opened([]);
  expect(await screen.findByText("Carriage uses no other file")).toBeDefined();
  expect(screen.getByText(/No file is named in any document of this project/)).toBeDefined();
});

test("links that cannot be read are told in the service's words", async () => {
  opened([], {
    [`/api/projects/${PROJECT.id}/links`]: () =>
      problem(503, "reader", "The reader gave up. Nothing was changed."),
  });
  expect(await screen.findByText(/The reader gave up/)).toBeDefined();
});
