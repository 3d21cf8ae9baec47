// @vitest-environment happy-dom
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import {
  OPEN,
  ago,
  document,
  exposure,
  job,
  overview,
  project,
  receipt,
  recovery,
  restorePreview,
  version,
  versions,
} from "../testing/fixtures";
import { inAWorld } from "../testing/world";
import type { VersionsView } from "../api/schema";

inAWorld();

const ID = document(1).id;
const AT = `/api/documents/${ID}`;

function opened(view: VersionsView | (() => Response), more: Parameters<typeof answering>[0] = {}) {
  answering({
    "/api/overview": overview(project({ documents: [document(1)] })),
    [`${AT}/versions`]: view,
    [`${AT}/recovery`]: recovery(),
    [`/api/projects/${project().id}/incidents`]: [],
    [`GET ${AT}/stored-versions`]: [],
    [`${AT}/who`]: { owner: "ilse", lastWriter: "", openIn: [], signs: [] },
    [`${AT}/restores/preview`]: restorePreview(),
    [`GET ${AT}/restores`]: [],
    ...more,
  });
  return open(`/versions/${ID}`);
}

const chosen = async () =>
  within(await screen.findByRole("complementary", { name: "Chosen version" }));

test("nothing to lose is said first, then how much there is", async () => {
  opened(versions([version(1), version(2), version(3)]));
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toBe("Nothing of this would be lost now");
  expect(screen.getByText("3 versions")).toBeDefined();
  expect(screen.getByText(/^3 copies, 29\.0 MB$/)).toBeDefined();
});

test("what is open has something to lose, and the loss grows with the time", async () => {
  const at = exposure({
    quiet: false,
    open: OPEN,
    at: new Date().toISOString(),
    programDiesSince: new Date(Date.now() - 12 * 60_000).toISOString(),
    fileLostSince: new Date(Date.now() - 40 * 60_000).toISOString(),
  });
  opened(versions([version(1)], { exposure: at }));
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toBe("You would lose 12 min of work if the program died now");
});

test("unknown is not safe", async () => {
  const blind = exposure({
    open: {
      state: "UNKNOWN",
      evidence: ["no program profile says what to look for"],
      mayHoldWork: false,
    },
  });
  opened(versions([version(1)], { exposure: blind }));
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toMatch(/whether unsaved work stands open is unknown$/);
});

test("open on another machine is said so", async () => {
  const away = exposure({
    open: { state: "ELSEWHERE", evidence: ["its lock file names drafting-2"], mayHoldWork: false },
  });
  opened(versions([version(1)], { exposure: away }));
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toMatch(/open on another machine$/);
});

test("the chosen one says why it is kept, what was found, and where its time comes from", async () => {
  opened(
    versions([
      version(1, {
        verdict: "DAMAGED",
        findings: [
          {
            code: "zeros",
            severity: "DAMAGED",
            words: "33,951 zero bytes from 61 %.",
            remedy: "Take an older one.",
            offset: 9,
          },
        ],
        contradictions: ["its slot says otherwise"],
      }),
    ]),
  );
  const panel = await chosen();
  expect(panel.getByText(/33,951 zero bytes from 61 %/)).toBeDefined();
  expect(panel.getByText("Take an older one.")).toBeDefined();
  expect(panel.getByText("▲ Its slot says otherwise.")).toBeDefined();
  expect(panel.getByText("Its time comes from the file system.")).toBeDefined();
});

test("a guess is said to be one", async () => {
  opened(versions([version(1, { orderKnown: false })]));
  expect(
    await (await chosen()).findByText(/^Nothing tells whether it is older or newer/),
  ).toBeDefined();
});

test("pinning is one key, and says what it sends", async () => {
  const { user } = opened(versions([version(1), version(2)]), { [`POST ${AT}/marks`]: {} });
  await chosen();
  await user.keyboard("p");
  await waitFor(() =>
    expect(asked.some((a) => a.what.startsWith("P") && a.what.includes("/marks"))).toBe(true),
  );
  expect(asked.find((a) => a.what.includes("/marks"))?.sent).toMatchObject({
    state: "v1",
    mark: "pinned",
    on: true,
  });
});

test("restoring from the list: one key, one press, and the proof", async () => {
  const { user } = opened(versions([version(1), version(2)]), {
    [`POST ${AT}/restores`]: job(receipt({ state: "v1" })),
    [`${AT}/versions/v1/as-of`]: { rows: [] },
  });
  await chosen();
  await user.keyboard("r");
  const dialog = within(await screen.findByRole("dialog"));
  await user.click(await dialog.findByRole("button", { name: "Put aside and replace" }));
  expect(await dialog.findByText("Restored and read back.")).toBeDefined();
});

test("older and newer by key, and not behind a dialog", async () => {
  const { user } = opened(versions([version(1), version(2), version(3)]), {
    [`${AT}/versions/v2/as-of`]: { rows: [] },
  });
  const panel = await chosen();
  await user.keyboard("[[");
  await waitFor(() => expect(panel.getByText(/carriage-01\.000002\.glb$/)).toBeDefined());
  await user.keyboard("r");
  await screen.findByRole("dialog");
  await user.keyboard("[[[[");
  expect(screen.getByText(/^Restore the work of/).textContent).toContain("2.9 MB");
  expect(panel.getByText(/carriage-01\.000002\.glb$/)).toBeDefined();
});

test("a document without any version says so in a sentence, and the page stands", async () => {
  opened(versions([], { live: { awaited: false, everSaved: false, present: false, size: 0 } }));
  expect(await screen.findByRole("heading", { level: 1 })).toBeDefined();
  expect(screen.getByText("0 versions")).toBeDefined();
});

test("versions that cannot be read are told in the service's words", async () => {
  opened(() => problem(503, "records", "The records are away. Nothing was changed."));
  expect(await screen.findByText("The records are away. Nothing was changed.")).toBeDefined();
});

test("dropped backups wait in the bin, and are counted", async () => {
  opened(
    versions([version(1)], {
      bin: [
        {
          id: "00000000-0000-7000-f000-000000000001",
          bin: "/mnt/keep/.kavrin/bin/1",
          name: "carriage-01.000000.glb",
          size: 5_900_000,
          since: ago(100),
        },
      ],
    }),
  );
  expect(
    await screen.findByRole("button", { name: /^1 dropped backup in the bin, 5\.9 MB/ }),
  ).toBeDefined();
});

const STORED = {
  store: "00000000-0000-7000-a000-000000000001",
  storeName: "Annex",
  state: "v9",
  objects: ["files/carriage-02.000001.20310303-0912.glb"],
  lacks: [],
  work: ago(3 * 24 * 60),
  size: 5_900_000,
  verified: ago(60),
};

test("what only a store still has is fetched from there", async () => {
  opened(versions([version(1)]), {
    [`GET ${AT}/stored-versions`]: [
      STORED,
      { ...STORED, state: "v8", leaving: ago(5) },
      { ...STORED, state: "v7", step: 40, objects: ["a", "b", "c"], lacks: ["lacks its result"] },
    ],
    [`POST ${AT}/stored-versions/fetch`]: job({ state: "v9", bytes: 5_900_000 }),
  });
  fireEvent.click(await screen.findByRole("button", { name: "3 versions only elsewhere" }));
  expect(await screen.findByText("5.9 MB, Annex")).toBeDefined();
  expect(screen.getByText("5.9 MB, Annex, will be deleted there")).toBeDefined();
  expect(screen.getByText("step 40, 3 files, 5.9 MB, Annex, lacks its result")).toBeDefined();
  const fetch = screen.getAllByRole("button", { name: /^Fetch the version of/ })[0];
  if (fetch === undefined) throw new Error("Nothing can be fetched.");
  fireEvent.click(fetch);
  await waitFor(() => {
    expect(asked.filter((a) => a.what.endsWith("/fetch")).map((a) => a.sent)).toEqual([
      { store: STORED.store, state: STORED.state },
    ]);
  });
});

test("a store that cannot give it says so, and what stands stays", async () => {
  opened(versions([version(1)]), {
    [`GET ${AT}/stored-versions`]: [STORED],
    [`POST ${AT}/stored-versions/fetch`]: () =>
      problem(503, "away", "Annex does not answer. Nothing was changed."),
  });
  fireEvent.click(await screen.findByRole("button", { name: "1 version only elsewhere" }));
  fireEvent.click(await screen.findByRole("button", { name: /^Fetch the version of/ }));
  expect(await screen.findByText("Annex does not answer. Nothing was changed.")).toBeDefined();
});

test("an old version lies beside today's file to carry over by hand, and how it went is told", async () => {
  const { user } = opened(versions([version(1), version(2)]), {
    [`GET ${AT}/trials`]: { copies: 0, bytes: 0 },
    [`POST ${AT}/trials`]: {
      file: "/mnt/keep/trials/carriage-01-from-then/carriage-01.glb",
      beside: [],
      now: [],
      missing: [],
      bytes: 2_900_000,
    },
    [`POST ${AT}/marks`]: () => new Response(null, { status: 204 }),
  });
  await chosen();
  await user.keyboard("r");
  await user.click(await screen.findByRole("button", { name: "Lay out a copy to try" }));
  const both = within(await screen.findByRole("region", { name: "Carry over by hand" }));
  expect(both.getByText("/mnt/keep/trials/carriage-01-from-then/carriage-01.glb")).toBeDefined();
  expect(both.getByText("/srv/tarnwick/carriage/carriage-1.glb")).toBeDefined();
  await user.click(both.getByRole("button", { name: "I carried it over" }));
  await waitFor(() =>
    expect(asked).toContainEqual({
      what: `POST ${AT}/marks`,
      sent: { state: "v1", mark: "carried over", on: true },
    }),
  );
});

test("who carried a version over is told with the save it went into", async () => {
  const mark = {
    mark: "carried over",
    who: "Ilse Quarn",
    note: "into the file as saved 2031-03-05 14:20:00",
    made: ago(1),
  };
  const { user } = opened(versions([version(1, { marks: [mark] }), version(2)]), {
    [`GET ${AT}/trials`]: { copies: 0, bytes: 0 },
    [`POST ${AT}/trials`]: { file: "/mnt/t.glb", beside: [], now: [], missing: [], bytes: 1 },
  });
  await chosen();
  await user.keyboard("r");
  await user.click(await screen.findByRole("button", { name: "Lay out a copy to try" }));
  expect(
    await screen.findByText(
      "Carried over into the file as saved 2031-03-05 14:20:00, says Ilse Quarn.",
    ),
  ).toBeDefined();
});
