// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { NOTIFICATIONS, ago } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

Object.assign(globalThis, {
  Notification: { permission: "default", requestPermission: () => Promise.resolve("default") },
});

function opened(view: object | (() => Response)) {
  answering({ "/api/notifications": view });
  return open("/notifications");
}

test("told only while a page is open is said loudly", async () => {
  opened(NOTIFICATIONS);
  expect((await screen.findByRole("heading", { level: 1 })).textContent).toBe(
    "Notified only while a page is open",
  );
  expect(screen.getByText(/^Nothing can be delivered while no page is open/)).toBeDefined();
  expect(screen.getByRole("button", { name: "Nothing to save" })).toHaveProperty("disabled", true);
});

test("mail is set with its fields, and sent as they stand", async () => {
  const { user } = opened(NOTIFICATIONS);
  await user.click(await screen.findByLabelText("by mail"));
  await user.type(screen.getByLabelText("Mail server"), "mail.tarnwick.example");
  await user.type(screen.getByLabelText("Sender"), "kavrin@tarnwick.example");
  await user.type(screen.getByLabelText("Receiver"), "ilse@tarnwick.example");
  answering({ "PUT /api/notifications": { ...NOTIFICATIONS, needsPage: false } });
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(asked.some((a) => a.what === "PUT /api/notifications")).toBe(true));
  expect(asked.find((a) => a.what === "PUT /api/notifications")?.sent).toMatchObject({
    mail: {
      host: "mail.tarnwick.example",
      from: "kavrin@tarnwick.example",
      to: "ilse@tarnwick.example",
      port: 587,
      tls: true,
    },
  });
});

test("a change can be left as it was", async () => {
  const { user } = opened(NOTIFICATIONS);
  await user.click(await screen.findByLabelText("posted as JSON to an address"));
  expect(screen.getByLabelText("Address to post to")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "As it was" }));
  expect(screen.queryByLabelText("Address to post to")).toBeNull();
});

test("what did not arrive says why", async () => {
  opened({
    ...NOTIFICATIONS,
    outcomes: [{ channel: "PAGE", at: ago(3), problem: "no page was open" }],
  });
  expect(await screen.findByText(/^Did not arrive .*: no page was open$/)).toBeDefined();
});

test("what cannot be saved is told, and stays on the page", async () => {
  const { user } = opened(NOTIFICATIONS);
  await user.click(await screen.findByLabelText("posted as JSON to an address"));
  answering({
    "PUT /api/notifications": () =>
      problem(422, "address", "https:// is no address to post to. Nothing was changed."),
  });
  await user.click(screen.getByRole("button", { name: "Save" }));
  expect(await screen.findByText(/is no address to post to\. Nothing was changed\./)).toBeDefined();
  expect(screen.getByLabelText("Address to post to")).toBeDefined();
});
