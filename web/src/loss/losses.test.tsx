// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { LossView } from "../api/schema";
import { answering, asked, open, problem } from "../testing/app";
import { ago, document } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const loss = (n: number, changes: Partial<LossView> = {}): LossView => ({
  document: document(n).id,
  project: "Carriage",
  path: document(n).path,
  before: `before-${n}`,
  after: `after-${n}`,
  bytes: 2_900_000,
  losses: ["12 of 40 parts are gone, Door the largest"],
  parts: ["Body/Door"],
  saved: ago(8),
  soonGone: false,
  until: "2031-03-10T14:00:00Z",
  ...changes,
});

const region = () => screen.findByRole("region", { name: "Questions about saves" });

test("nothing asks while nothing was lost", async () => {
  answering({ "/api/losses": [] });
  open("/overview");
  await screen.findByRole("link", { name: "carriage-01.glb" });
  expect(screen.queryByRole("region", { name: "Questions about saves" })).toBeNull();
});

test("one question at a time, what went in words, and how long the version before is kept", async () => {
  answering({ "/api/losses": [loss(1), loss(2, { soonGone: true }), loss(3)] });
  const { user } = open("/overview");
  const asks = await region();
  expect(asks.textContent).toContain("took something away. Was it meant?");
  expect(asks.textContent).toContain("12 of 40 parts are gone, Door the largest");
  expect(asks.textContent).toMatch(/2\.9 MB, is kept for this until .*10.*March|March.*10/);
  expect(within(asks).getAllByRole("button", { name: "It was meant" })).toHaveLength(1);
  await user.click(within(asks).getByRole("button", { name: "2 more questions" }));
  expect(within(asks).getAllByRole("button", { name: "It was meant" })).toHaveLength(3);
  expect(asks.textContent).toContain("that is soon");
});

test("an answer is sent for the save it is about, and the question goes", async () => {
  answering({ "/api/losses": [loss(1)] });
  const { user } = open("/overview");
  const asks = await region();
  const at = `POST /api/documents/${document(1).id}/losses`;
  answering({ [at]: {}, "/api/losses": [] });
  await user.click(within(asks).getByRole("button", { name: "It was meant" }));
  await waitFor(() =>
    expect(screen.queryByRole("region", { name: "Questions about saves" })).toBeNull(),
  );
  expect(asked.find((a) => a.what === at)?.sent).toEqual({ after: "after-1", answer: "meant" });
});

test("one can leave it for today, and an answer that is refused leaves the question", async () => {
  answering({ "/api/losses": [loss(1)] });
  const { user } = open("/overview");
  const asks = await region();
  const at = `POST /api/documents/${document(1).id}/losses`;
  answering({ [at]: () => problem(409, "answered", "Tove Asgrim answered it already.") });
  await user.click(
    within(asks).getByRole("button", { name: /do not ask for this document today/ }),
  );
  expect(await screen.findByText(/Tove Asgrim answered it already/)).toBeDefined();
  expect(asked.find((a) => a.what === at)?.sent).toEqual({ after: "after-1", answer: "not today" });
});

test("what went is compared with what was there before", async () => {
  answering({
    "/api/losses": [loss(1)],
    [`/api/documents/${document(1).id}/comparison`]: { progress: 0.1 },
  });
  const { user } = open("/overview");
  await user.click(within(await region()).getByRole("button", { name: "See what went" }));
  await waitFor(() =>
    expect(asked.some((a) => a.what === `GET /api/documents/${document(1).id}/comparison`)).toBe(
      true,
    ),
  );
});
