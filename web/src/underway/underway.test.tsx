// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Job } from "../api/schema";
import { answering, asked, open, problem, tell } from "../testing/app";
import { ago, document, job, project } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

function one(n: number, changes: Partial<Job> = {}): Job {
  const { ended, ...begun } = job({});
  const id = `00000000-0000-7000-e000-${String(n).padStart(12, "0")}`;
  const still = changes.state === "RUNNING";
  return { ...begun, ...(!still && ended && { ended }), id, created: ago(n), ...changes };
}

const RUNNING: Partial<Job> = {
  kind: "restore-several",
  key: project().id,
  state: "RUNNING",
  progress: 0.4,
  words: "Writing carriage-02.glb",
};

function withJobs(...jobs: Job[]) {
  answering({ "/api/jobs": jobs });
  return open("/under-way");
}

test("nothing asked for yet says so", async () => {
  withJobs();
  expect(await screen.findByRole("heading", { name: "Nothing is under way" })).toBeDefined();
  expect(screen.getByText(/^Nobody has asked for anything yet/)).toBeDefined();
});

test("what is under way stands first, how far it is and for whom, and can be cancelled", async () => {
  const running = one(2, RUNNING);
  answering({ [`DELETE /api/jobs/${running.id}`]: { ...running, cancelled: true } });
  const { user } = withJobs(one(1, { kind: "bundle", key: "/srv/tarnwick/bundles/b1" }), running);
  expect(await screen.findByRole("heading", { name: "1 job under way" })).toBeDefined();
  const rows = screen.getAllByRole("row").slice(1);
  const first = within(rows[0] as HTMLElement);
  expect(first.getByText("Restore several")).toBeDefined();
  expect(first.getByText(project().name)).toBeDefined();
  expect(first.getByText("Writing carriage-02.glb")).toBeDefined();
  expect(first.getByRole("progressbar").getAttribute("value")).toBe("0.4");
  expect(within(rows[1] as HTMLElement).getByText("/srv/tarnwick/bundles/b1")).toBeDefined();
  expect(within(rows[1] as HTMLElement).queryByRole("button", { name: "Cancel" })).toBeNull();
  answering({ "/api/jobs": [{ ...running, cancelled: true }] });
  await user.click(first.getByRole("button", { name: "Cancel" }));
  expect(await screen.findByText("is being stopped")).toBeDefined();
  expect(asked.map((a) => a.what)).toContain(`DELETE /api/jobs/${running.id}`);
});

test("what failed says why, what was begun anew says so", async () => {
  withJobs(
    one(1, {
      kind: "restore",
      key: document(1).id,
      state: "FAILED",
      problem: {
        status: 507,
        type: "urn:kavrin:problem:no-room",
        title: "No room",
        detail: "Nothing was changed: 2.9 MB are missing on the disk.",
      },
    }),
    one(2, { ...RUNNING, attempt: 2 }),
    one(3, { kind: "search", key: "everywhere", state: "CANCELLED", cancelled: true }),
  );
  expect(await screen.findByText(/2.9 MB are missing on the disk/)).toBeDefined();
  expect(screen.getByRole("cell", { name: document(1).name })).toBeDefined();
  expect(screen.getByText(/Begun again after a stop/)).toBeDefined();
  expect(screen.getByText("all folders")).toBeDefined();
  expect(screen.getByText("cancelled")).toBeDefined();
});

test("a new job appears by itself, and the overview counts what is under way", async () => {
  answering({ "/api/jobs": [] });
  const { user } = open("/overview");
  expect(await screen.findByRole("button", { name: "Under way" })).toBeDefined();
  answering({ "/api/jobs": [one(1, RUNNING)] });
  await waitFor(() => {
    tell("jobs");
    expect(screen.getByRole("button", { name: "Under way: 1" })).toBeDefined();
  });
  await user.click(screen.getByRole("button", { name: "Under way: 1" }));
  expect(await screen.findByRole("heading", { name: "1 job under way" })).toBeDefined();
});

test("that the service cannot tell is told in its words", async () => {
  answering({ "/api/jobs": () => problem(503, "records", "The records are away.") });
  open("/under-way");
  expect(await screen.findByText("The records are away.")).toBeDefined();
});
