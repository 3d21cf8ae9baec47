// @vitest-environment happy-dom
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import type { PartLine, PartsView, PartView } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { ago, document, job, overview, project, receipt } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const ID = document(1).id;
const AT = `/api/documents/${ID}`;

/** A page that lays nothing out has no heights; the list and the picture need some. */
const kept = {
  height: Object.getOwnPropertyDescriptor(HTMLElement.prototype, "clientHeight"),
  observer: globalThis.ResizeObserver,
};

beforeAll(() => {
  Object.defineProperty(HTMLElement.prototype, "clientHeight", { configurable: true, value: 600 });
  globalThis.ResizeObserver = class {
    constructor(private readonly told: ResizeObserverCallback) {}
    observe(target: Element) {
      const contentRect = { width: 800, height: 500 } as DOMRectReadOnly;
      this.told([{ target, contentRect } as ResizeObserverEntry], this);
    }
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
});

afterAll(() => {
  if (kept.height) Object.defineProperty(HTMLElement.prototype, "clientHeight", kept.height);
  globalThis.ResizeObserver = kept.observer;
});

beforeEach(() => sessionStorage.clear());

const line = (id: number, label: string, changes: Partial<PartLine> = {}): PartLine => ({
  id,
  label,
  kind: "mesh",
  first: 0,
  lastSeen: 2,
  size: 12_000,
  unit: "triangles",
  there: true,
  why: "",
  stretches: [0, 2],
  changes: [1],
  ...changes,
});

const gone = { there: false, why: "Not there any more.", lastSeen: 1, stretches: [0, 1] };

const lives = (changes: Partial<PartsView> = {}): PartsView => ({
  parts: [
    line(1, "Frame"),
    line(2, "Brake shoe", gone),
    line(3, "Lamp", { ...gone, above: "Roof" }),
    line(4, "Sand box", { why: "Its layer is off." }),
  ],
  gone: [2, 3],
  newest: 2,
  newestWhole: true,
  since: 0,
  states: [300, 200, 20].map((m, n) => ({ state: `s${n}`, work: ago(m), gap: n === 1 })),
  ...changes,
});

const one = (changes: Partial<PartView> = {}): PartView => ({
  id: 2,
  label: "Brake shoe",
  kind: "mesh",
  content: "620-a",
  contentId: "Brake shoe",
  last: "s1",
  lastId: "Frame/Brake shoe",
  lastWork: ago(200),
  newest: "s2",
  takes: true,
  there: false,
  why: "Not there any more.",
  measures: { "area of surface": { value: 1.25, unit: "m²" } },
  series: [{ name: "area", unit: "m²", values: [1, 1.25, null as unknown as number] }],
  events: [
    { state: "s0", what: "FIRST", words: "", work: ago(300) },
    { state: "s1", what: "CHANGED", words: "by 40 points", work: ago(200) },
    { state: "s2", what: "LOST", words: "", work: ago(20) },
  ],
  ...changes,
});

function opened(view: object | (() => Response), more: Parameters<typeof answering>[0] = {}) {
  answering({
    "/api/overview": overview(project({ documents: [document(1)] })),
    [`${AT}/parts`]: view,
    [`${AT}/parts/2`]: one(),
    [`${AT}/parts/3`]: one({ id: 3, label: "Lamp", takes: false }),
    [`/api/projects/${project().id}/losses`]: [],
    ...more,
  });
  return open(`/parts/${ID}`);
}

const title = async () => (await screen.findByRole("heading", { level: 1 })).textContent;
const LIST = { name: "Parts, by what became of them" };
const options = async () => {
  const list = await screen.findByRole("listbox", LIST);
  return (await within(list).findAllByRole("option")).map((o) => o.textContent);
};

test("what has gone stands first, the largest on top and chosen", async () => {
  opened(lives());
  expect(await title()).toBe("2 parts have gone in the last 7 days, the largest is Brake shoe");
  expect(await options()).toEqual(["Brake shoe ", "Lamp Roof", "Sand box ", "Frame "]);
  expect(screen.getByText("1 state cannot be read")).toBeDefined();
  expect(await screen.findByRole("heading", { name: "Brake shoe" })).toBeDefined();
  expect(screen.getByText(/Not there any more\. Last seen before/)).toBeDefined();
  expect(screen.getByText("not there any more")).toBeDefined();
  expect(screen.getByText("by 40 points")).toBeDefined();
  expect(screen.getByRole("img", { name: /^area over all versions, from 1/ })).toBeDefined();
});

test("arrow keys go from part to part, over the titles between them", async () => {
  opened(lives());
  const list = await screen.findByRole("listbox", LIST);
  await screen.findByRole("heading", { name: "Brake shoe" });
  fireEvent.keyDown(list, { key: "ArrowDown" });
  expect(await screen.findByRole("heading", { name: "Lamp" })).toBeDefined();
  expect(screen.queryByRole("button", { name: /^Bring it back/ })).toBeNull();
  fireEvent.keyDown(list, { key: "ArrowUp" });
  expect(await screen.findByRole("button", { name: /^Bring it back/ })).toBeDefined();
});

test("a name typed leaves the parts that have it, and looks in all projects", async () => {
  const { user } = opened(lives(), {
    "/api/parts": [
      {
        document: document(2).id,
        id: 7,
        kind: "mesh",
        label: "Lamp of the annex",
        last: ago(4000),
        path: "annex.glb",
        project: "Annex",
        there: false,
      },
    ],
  });
  const find = await screen.findByRole("textbox", { name: "Find a part by name" });
  await user.type(find, "lamp");
  await waitFor(async () => expect(await options()).toEqual(["Lamp Roof"]));
  const all = await screen.findByRole("region", { name: "Found in all projects" });
  expect(await within(all).findByRole("button", { name: "Lamp of the annex" })).toBeDefined();
  expect(within(all).getByText(/last seen/)).toBeDefined();
  await user.clear(find);
  await user.type(find, "no such part");
  expect(screen.getByText("No part of this document ever had that in its name.")).toBeDefined();
});

test("since when is asked of the service, and said in the title", async () => {
  const { user } = opened(lives({ gone: [] }));
  expect(await title()).toBe("Nothing has gone in the last 7 days");
  await user.selectOptions(screen.getByLabelText("What has gone since when"), "ever");
  await waitFor(async () => expect(await title()).toBe("Nothing has gone since the first version"));
});

test("what used to be at a spot is asked by the keys alone", async () => {
  const { user } = opened(lives({ ground: { content: "640-b", state: "s2" } }), {
    [`${AT}/spot`]: {
      all: false,
      fillers: [
        {
          id: 3,
          kind: "mesh",
          label: "Lamp",
          now: false,
          state: "s1",
          there: false,
          work: ago(200),
        },
        { id: 1, kind: "mesh", label: "Frame", now: true, state: "s2", there: true, work: ago(20) },
      ],
    },
  });
  await user.click(await screen.findByRole("button", { name: /^What used to be here/ }));
  const picture = await screen.findByRole("application");
  fireEvent.keyDown(picture, { key: "ArrowLeft", shiftKey: true });
  await waitFor(() =>
    expect(picture.getAttribute("aria-label")).toContain(
      "42 % from the left and 50 % from the top",
    ),
  );
  fireEvent.keyDown(picture, { key: "Enter" });
  expect(await screen.findByText("Used to be here · 1")).toBeDefined();
  expect(screen.getByText("Here now · 1")).toBeDefined();
  expect(screen.getByText(/Not every older version was looked into/)).toBeDefined();
  await waitFor(() =>
    expect(screen.getByRole("button", { name: /^Lamp/ }).getAttribute("aria-pressed")).toBe("true"),
  );
  expect(asked.some((a) => a.what === `GET ${AT}/spot`)).toBe(true);
});

test("a part is brought back into the file of today, proven before and after", async () => {
  const { user } = opened(lives(), {
    [`POST ${AT}/part-restores/preview`]: {
      id: "00000000-0000-7000-f000-000000000001",
      brought: [
        {
          part: "Brake shoe",
          from: "s1",
          replaced: false,
          along: ["Steel"],
          told: ["it is hidden"],
        },
      ],
      unequal: [],
      untouched: 3,
    },
    [`POST ${AT}/part-restores`]: job(receipt()),
  });
  await user.click(await screen.findByRole("button", { name: /^Bring it back/ }));
  await user.click(screen.getByRole("button", { name: /^Bring 1 part into today's file/ }));
  const dialog = await screen.findByRole("dialog");
  expect(await within(dialog).findByText(/Is not in today's file; is added\./)).toBeDefined();
  expect(within(dialog).getByText(/Brings along Steel/)).toBeDefined();
  expect(within(dialog).getByText("Mind: it is hidden.")).toBeDefined();
  expect(within(dialog).getByText(/1 part equals what it was/)).toBeDefined();
  const preview = asked.find((a) => a.what === `POST ${AT}/part-restores/preview`);
  expect(JSON.stringify(preview?.sent)).toContain("Frame/Brake shoe");
});

test("what came out unequal is said, and nothing can be put in its place", async () => {
  const { user } = opened(lives(), {
    [`POST ${AT}/part-restores/preview`]: {
      id: "00000000-0000-7000-f000-000000000002",
      brought: [],
      unequal: ["Lamp lost its colour"],
      untouched: 3,
    },
  });
  await user.click(await screen.findByRole("button", { name: /^Bring it back/ }));
  await user.click(screen.getByRole("button", { name: /^Bring 1 part into today's file/ }));
  const dialog = await screen.findByRole("dialog");
  expect(
    await within(dialog).findByText(/not as it should be: Lamp lost its colour/),
  ).toBeDefined();
  expect(asked.some((a) => a.what === `POST ${AT}/part-restores`)).toBe(false);
});

test("a document nothing is known inside of says how else to go on", async () => {
  opened(lives({ parts: [], gone: [] }));
  expect(await screen.findByText("Nothing inside this document is known")).toBeDefined();
  expect(screen.getByRole("button", { name: "Compare two versions" })).toBeDefined();
});

test("why the parts cannot be followed stands in words", async () => {
  opened(() => problem(503, "reader", "The reader is busy with a large file."));
  expect(await screen.findByText("The reader is busy with a large file.")).toBeDefined();
});
