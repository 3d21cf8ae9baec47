// @vitest-environment happy-dom
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { document, overview, project, recovery, version, versions } from "../testing/fixtures";
import { inAWorld } from "../testing/world";
import type { ComparisonView, PartChange } from "../api/schema";

inAWorld();

const ID = document(1).id;
const AT = `/api/documents/${ID}`;

const part = (label: string, changes: Partial<PartChange> = {}): PartChange => ({
  a: `a ${label}`,
  b: `b ${label}`,
  kind: "column",
  label,
  numbers: { mean: { a: 12.5, b: 13.25, unit: "kN" }, rows: { a: 12_000, b: 12_000, unit: "" } },
  outcome: "CHANGED",
  words: "mean +0.75 kN",
  ...changes,
});

const PARTS = [
  part("Cable force", { shift: { largest: 0.25, rootMeanSquare: 0.1 } }),
  part("Brake shoe", { outcome: "REMOVED", words: "gone", numbers: {} }),
  part("Sand box", { outcome: "ADDED", words: "new", numbers: {} }),
  part("Lamp", { outcome: "SAME", words: "", numbers: {} }),
];

const comparison = (changes: Partial<ComparisonView> = {}): ComparisonView => ({
  a: "v2",
  b: "v1",
  changes: PARTS,
  contentA: "620-a",
  contentB: "640-b",
  counts: { CHANGED: 1, REMOVED: 1, ADDED: 1, SAME: 1 },
  readA: { damaged: false, findings: [], format: "CSV" },
  readB: { damaged: false, findings: [], format: "CSV" },
  sentence: "Brake shoe is gone, Sand box is new, 1 part changed",
  shows: "NUMBERS",
  takes: true,
  tolerance: 0,
  ...changes,
});

function opened(answer: object | (() => Response), more: Parameters<typeof answering>[0] = {}) {
  answering({
    "/api/overview": overview(project({ documents: [document(1)] })),
    [`${AT}/versions`]: versions([version(1), version(2), version(3)]),
    [`${AT}/recovery`]: recovery({ recommended: "v1", against: "v2" }),
    [`/api/projects/${project().id}/incidents`]: [],
    [`GET ${AT}/comparison`]: answer,
    ...more,
  });
  return open(`/compare/${ID}`);
}

const view = (changes: Partial<ComparisonView> = {}) => ({ share: 1, view: comparison(changes) });
const parts = async () => within(await screen.findByRole("region", { name: "Parts" }));

test("the difference is said first, and each part says what became of it", async () => {
  opened(view());
  expect(
    await screen.findByRole("heading", { level: 1, name: /^Brake shoe is gone, Sand box is new/ }),
  ).toBeDefined();
  const list = await parts();
  const texts = list.getAllByRole("listitem").map((i) => i.textContent);
  expect(texts.some((t) => t.includes("Cable force") && t.includes("mean +0.75 kN"))).toBe(true);
  expect(texts.some((t) => t.includes("Lamp"))).toBe(false);
});

test("what is the same is shown when one asks for it, and a search narrows the rest", async () => {
  opened(view());
  const list = await parts();
  fireEvent.click(screen.getByRole("button", { name: "= 1 the same" }));
  expect(list.getByText("Lamp")).toBeDefined();
  fireEvent.change(screen.getByLabelText("Find a part"), { target: { value: "sand" } });
  expect(list.getAllByRole("listitem")).toHaveLength(1);
  fireEvent.change(screen.getByLabelText("Find a part"), { target: { value: "no such part" } });
  expect(list.getByText("No part has that in its name.")).toBeDefined();
  fireEvent.change(screen.getByLabelText("Order of the parts"), { target: { value: "name" } });
  fireEvent.change(screen.getByLabelText("Find a part"), { target: { value: "" } });
  const names = list.getAllByRole("listitem").map((i) => i.textContent);
  expect(names[0]).toContain("Brake shoe");
});

test("a part opens with both numbers, and either side of it can be taken along", async () => {
  opened(view());
  const list = await parts();
  fireEvent.click(list.getByRole("button", { name: /Cable force/ }));
  const rows = (await list.findAllByRole("row")).map((r) => r.textContent);
  expect(rows).toContain("mean12.500 kN13.250 kN");
  expect(rows).toContain("rows12 00012 000");
  expect(list.getByText(/moved up to 0.25000/)).toBeDefined();
  fireEvent.click(list.getByRole("button", { name: "Take A's into today's file" }));
  expect(
    await screen.findByRole("button", { name: /^Bring 1 part into today.s file/ }),
  ).toBeDefined();
});

test("two of a kind nobody can look into are compared byte by byte", async () => {
  opened(
    view({
      changes: [],
      counts: {},
      bytes: { sizeA: 1_000_000, sizeB: 1_200_000, shared: 900_000, differing: ranges(14) },
    }),
  );
  expect(
    await screen.findByRole("img", { name: "14 byte ranges of B differ from A" }),
  ).toBeDefined();
  expect(screen.getByText(/Hatched: stands in A too, 900.0 kB/).textContent).toContain(
    "B +200.0 kB",
  );
  expect(screen.getByText("and 2 further ranges")).toBeDefined();
});

const ranges = (n: number) =>
  Array.from({ length: n }, (_, i) => ({ from: i * 1000, to: i * 1000 + 500 }));

test("what could not be read is said to be unknown, not gone", async () => {
  const finding = { code: "zeros", offset: 61, remedy: "", words: "33 951 zero bytes from 61 %" };
  opened(
    view({
      readB: {
        damaged: true,
        format: "CSV",
        findings: [
          { ...finding, severity: "DAMAGED" },
          { ...finding, severity: "DAMAGED", words: "cut short" },
          { ...finding, severity: "NOTE", words: "an empty last line" },
        ],
      },
    }),
  );
  const said = await screen.findByText(/▲ B is damaged: 33 951 zero bytes from 61 %/);
  expect(said.textContent).toContain("the rest is unknown, not gone. 1 more like that.");
  expect(screen.getByText("1 other thing noticed")).toBeDefined();
});

test("the printed page has the sentence, the parts, and the way back", async () => {
  opened(view());
  fireEvent.click(await screen.findByRole("button", { name: "on paper" }));
  const back = await screen.findByRole("button", { name: "Back to the picture" });
  expect(window.document.body.textContent).toContain("Cable force");
  expect(screen.queryByLabelText("Find a part")).toBeNull();
  fireEvent.click(back);
  expect(await screen.findByLabelText("Find a part")).toBeDefined();
});

test("it can be had as a file, by either side", async () => {
  opened(view());
  const table = await screen.findByRole("link", { name: "as a table" });
  expect(table.getAttribute("href")).toContain("/comparison/export?a=v2&b=v1&as=CSV");
  fireEvent.click(screen.getByRole("button", { name: "swap" }));
  await waitFor(() => {
    expect(screen.getByRole("link", { name: "as JSON" }).getAttribute("href")).toContain(
      "a=v1&b=v2",
    );
  });
});

test("another version is chosen by its list or by key", async () => {
  opened(view());
  await parts();
  fireEvent.change(screen.getByLabelText("Version A"), { target: { value: "v3" } });
  await waitFor(() => {
    expect(asked.some((a) => a.what === `GET ${AT}/comparison`)).toBe(true);
    expect(new URLSearchParams(window.location.search).get("a")).toBe("v3");
  });
  fireEvent.keyDown(window, { key: "[" });
  await waitFor(() => {
    expect(new URLSearchParams(window.location.search).get("b")).toBe("v2");
  });
});

test("a comparison that takes its time tells how far it is, and can be stopped", async () => {
  opened(
    { share: 0.4 },
    { [`DELETE ${AT}/comparison`]: () => new Response(null, { status: 204 }) },
  );
  expect(await screen.findByText(/40 %/)).toBeDefined();
  fireEvent.click(screen.getByRole("button", { name: /stop/i }));
  await waitFor(() => {
    expect(asked.some((a) => a.what === `DELETE ${AT}/comparison`)).toBe(true);
  });
});

test("one that cannot be made says why", async () => {
  opened(() => problem(503, "away", "No copy of that version can be reached."));
  expect(await screen.findByText("No copy of that version can be reached.")).toBeDefined();
});

test("a file that is just being written is asked for again", async () => {
  let asks = 0;
  opened(() => {
    asks++;
    return asks < 3
      ? problem(409, "written-meanwhile", "A file was written while it was read.")
      : problem(422, "could-not-compare", "By now it says something else.");
  });
  expect(await screen.findByText(/By now it says something else/)).toBeDefined();
  expect(asks).toBe(3);
  expect(screen.queryByText(/written while it was read/)).toBeNull();
});

test("how close counts as the same can be said, in the unit of the file", async () => {
  opened(view({ shows: "NUMBERS", tolerance: 0.002 }));
  expect(await screen.findByText(/up to 0.002 units apart counts as the same/)).toBeDefined();
  fireEvent.click(screen.getByRole("button", { name: "say how much" }));
  expect(await screen.findByLabelText("Length up to which parts count as the same")).toBeDefined();
  fireEvent.click(screen.getByRole("button", { name: "what the files tell apart" }));
  expect(await screen.findByText(/counts as the same/)).toBeDefined();
});

test("what is read of each kind of file is told", async () => {
  opened(view(), {
    "/api/kinds": [
      {
        name: "Table",
        endings: ["csv"],
        read: "columns",
        measured: "least, largest, mean",
        judged: "RFC 4180",
        lacks: "formulas",
      },
    ],
  });
  fireEvent.click(await screen.findByRole("button", { name: "what is read" }));
  const dialog = within(await screen.findByRole("dialog"));
  expect(await dialog.findByText("RFC 4180")).toBeDefined();
});
