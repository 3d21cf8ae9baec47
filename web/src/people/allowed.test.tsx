// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open } from "../testing/app";
import {
  ago,
  candidate,
  document,
  incident,
  overview,
  PLAN,
  PROJECT,
  project,
  recovery,
  SESSION,
} from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const OTHER = { id: "0190c000-0000-7000-8000-00000000beef", name: "Cabin" };
const CRASH = incident();

/** Somebody with a role in the first project, who looks only in another. */
function as(role: "LOOK" | "RESTORE" | "PLAN") {
  const person = { ...SESSION, everywhere: undefined };
  answering({
    "/api/session": {
      ...person,
      name: "Maren Holt",
      rights: { [PROJECT.id]: role, [OTHER.id]: "LOOK" },
    },
    "/api/overview": overview(
      project({ documents: [document(1)] }),
      project({ ...OTHER, documents: [document(2)] }),
    ),
  });
}

test.each([
  ["LOOK", 0],
  ["RESTORE", 1],
] as const)(
  "the overview offers to back up where one may: as %s in %i rows",
  async (role, rows) => {
    as(role);
    open("/overview");
    await screen.findByRole("heading", { name: "Cabin" });
    await waitFor(() =>
      expect(screen.queryAllByRole("button", { name: "Back up now" })).toHaveLength(rows),
    );
    expect(screen.queryAllByRole("button", { name: "It crashed" })).toHaveLength(rows);
    expect(screen.queryByRole("button", { name: "Add a project" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Back up everything open" })).toBeNull();
  },
);

test("who only looks reads after a crash what restoring needs, and asks for nothing", async () => {
  as("LOOK");
  const id = document(1).id;
  answering({
    "/api/overview": overview(project({ documents: [document(1, { incident: CRASH })] })),
    [`/api/documents/${id}/recovery`]: recovery({
      incident: CRASH,
      candidates: [candidate(1)],
      recommended: "v1",
      lostSeconds: 660,
    }),
    [`GET /api/documents/${id}/restores`]: [],
    [`/api/documents/${id}/versions/v1/as-of`]: { rows: [] },
  });
  open(`/recover/${id}`);
  expect(
    await screen.findByText(/Restoring a version needs the right to “back up and restore”/),
  ).toBeDefined();
  expect(screen.queryByRole("button", { name: "It crashed" })).toBeNull();
  expect(asked.some((a) => a.what.includes("restores/preview"))).toBe(false);
});

test.each([
  ["RESTORE", false],
  ["PLAN", true],
] as const)("a plan is set by who may: as %s %s", async (role, sets) => {
  as(role);
  answering({
    [`/api/projects/${PROJECT.id}`]: {
      ...PROJECT,
      plan: PLAN,
      changed: ago(60),
    },
  });
  open("/plan");
  await screen.findByLabelText("Minutes after a change");
  expect(screen.queryAllByRole("button", { name: "Nothing to apply" })).toHaveLength(sets ? 1 : 0);
  expect(screen.queryAllByText(/You can try what other figures come to/)).toHaveLength(
    sets ? 0 : 1,
  );
});
