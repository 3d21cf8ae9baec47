// @vitest-environment happy-dom
import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem, tell } from "../testing/app";
import { OPEN, ago, document, exposure, overview, project } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

test("an empty Kavrin says what to do", async () => {
  answering({ "/api/overview": overview() });
  open("/overview");
  expect(await screen.findByRole("button", { name: "Say where the work lies" })).toBeDefined();
});

test("what is lost stands first, with the way to recover it", async () => {
  const crashed = document(1, {
    incident: {
      id: "00000000-0000-7000-b000-000000000001",
      project: project().id,
      documents: [document(1).id],
      evidence: ["its lock file was left behind"],
      from: ago(4),
      to: ago(2),
      kind: "crash",
      open: true,
    },
    lostSeconds: 660,
  });
  answering({ "/api/overview": overview(project({ documents: [crashed, document(2)] })) });
  open("/overview");
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toBe("You lost 11 minutes in Carriage, carriage-01.glb");
  expect(screen.getByRole("button", { name: "Recover the file" })).toBeDefined();
});

test("a lock file from elsewhere is a quiet question, no alarm", async () => {
  const asked = document(1, {
    incident: {
      id: "00000000-0000-7000-b000-000000000002",
      project: project().id,
      documents: [document(1).id],
      evidence: ["its lock file stands"],
      from: ago(4),
      to: ago(2),
      kind: "asked",
      open: true,
    },
    lostSeconds: 660,
  });
  answering({ "/api/overview": overview(project({ documents: [asked] })) });
  open("/overview");
  const title = await screen.findByRole("heading", { level: 1 });
  expect(title.textContent).toBe("Is carriage-01.glb open elsewhere, or was it left behind?");
  expect(screen.getByRole("button", { name: "Answer" })).toBeDefined();
});

test("nothing is said to be safe where no program is known", async () => {
  const blind = document(1, {
    exposure: exposure({
      open: {
        state: "UNKNOWN",
        evidence: ["no program profile says what to look for"],
        mayHoldWork: false,
      },
    }),
  });
  answering({ "/api/overview": overview(project({ documents: [blind] })) });
  open("/overview");
  const row = (await screen.findByRole("link", { name: "carriage-01.glb" })).closest("tr");
  expect(within(row as HTMLElement).getByText("open or not: unknown")).toBeDefined();
});

test("a loss past what is accepted is marked by more than its hue", async () => {
  const at = exposure({
    quiet: false,
    open: OPEN,
    at: new Date().toISOString(),
    fileLostSince: new Date(Date.now() - 3 * 3_600_000).toISOString(),
    programDiesSince: new Date(Date.now() - 60_000).toISOString(),
  });
  answering({
    "/api/overview": overview(
      project({ programRuns: true, documents: [document(1, { exposure: at })] }),
    ),
  });
  open("/overview");
  expect(await screen.findByText("3 h !")).toBeDefined();
});

test("many documents are all there", async () => {
  const many = Array.from({ length: 300 }, (_, i) => document(i + 1));
  answering({ "/api/overview": overview(project({ documents: many })) });
  open("/overview");
  await screen.findByText("carriage-300.glb");
  expect(screen.getAllByText(/^carriage-\d+\.glb$/).length).toBeGreaterThanOrEqual(300);
});

test("an event asks again only for what it names", async () => {
  open("/overview");
  await screen.findByRole("link", { name: "carriage-01.glb" });
  answering({ "/api/overview": overview(project({ documents: [document(2)] })) });
  const before = asked.length;
  tell("hello");
  tell(`document ${document(1).id} 8`);
  expect(await screen.findByRole("link", { name: "carriage-02.glb" })).toBeDefined();
  expect(asked.slice(before).every((a) => !a.what.includes("/plan/"))).toBe(true);
});

test("a service that is gone is told in words", async () => {
  answering({ "/api/session": () => problem(503, "records-away", "The records do not answer.") });
  open("/overview");
  expect(await screen.findByText("Kavrin does not answer")).toBeDefined();
  expect(screen.getByText("The records do not answer.")).toBeDefined();
});

test("the digits open the views, and not behind a dialog or in a field", async () => {
  const { user } = open("/overview");
  await screen.findByRole("link", { name: "carriage-01.glb" });
  await user.keyboard("?");
  await screen.findByRole("dialog");
  await user.keyboard("3");
  expect(screen.getByRole("heading", { level: 1, hidden: true }).textContent).not.toContain(
    "folders",
  );
});
