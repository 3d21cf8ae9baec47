// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { NOTIFICATIONS, OWN_NOTIFICATIONS, PROJECT, SESSION, ago } from "../testing/fixtures";
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
    outcomes: [{ channel: "DESKTOP", at: ago(3), problem: "nobody is signed in there" }],
  });
  expect(await screen.findByText(/^Did not arrive .*: nobody is signed in there$/)).toBeDefined();
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

const sent = () =>
  asked.filter((a) => a.what === "PUT /api/session/notifications").map((a) => a.sent);

test("a guest chooses for themselves, and each change holds at once", async () => {
  const own = { page: true, browser: false, silent: [] };
  answering({
    "/api/session": { ...SESSION, everywhere: undefined, rights: { [PROJECT.id]: "LOOK" } },
    "PUT /api/session/notifications": (changed: unknown) => ({
      ...OWN_NOTIFICATIONS,
      own: changed,
    }),
    "POST /api/session/notifications/test": {
      channel: "MAIL",
      at: ago(0),
      problem: "mail.tarnwick.example:587: refused",
    },
  });
  const { user } = open("/notifications");
  await screen.findByRole("heading", { name: "What you are told of" });
  expect(screen.queryByText("From this machine, for everybody")).toBeNull();
  await user.click(await screen.findByLabelText("something was not saved for long"));
  await waitFor(() => expect(sent()).toEqual([{ ...own, silent: ["REMINDER"] }]));
  const address = screen.getByLabelText("Your mail address");
  await user.type(address, "maren@tarnwick.example{Enter}");
  await waitFor(() =>
    expect(sent().at(-1)).toEqual({ ...own, silent: ["REMINDER"], mail: "maren@tarnwick.example" }),
  );
  const tries = await screen.findAllByRole("button", { name: "Try it" });
  await waitFor(() => expect(tries[2]).toHaveProperty("disabled", false));
  await user.click(screen.getAllByRole("button", { name: "Try it" })[2] as HTMLElement);
  expect(await screen.findByText(/^Did not arrive .*refused$/)).toBeDefined();
});

test("what a person silenced for themselves is not what anybody is told", async () => {
  const { user } = opened(NOTIFICATIONS);
  const mine = await screen.findByRole("group", { name: "What you want to hear of" });
  const all = screen.getByRole("group", { name: "What anybody is told of" });
  await user.click(within(all).getByLabelText("a program crashed"));
  expect(within(mine).getByLabelText("a program crashed")).toHaveProperty("checked", true);
  expect(sent()).toEqual([]);
  answering({ "PUT /api/notifications": NOTIFICATIONS });
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() =>
    expect(asked.find((a) => a.what === "PUT /api/notifications")?.sent).toMatchObject({
      silent: ["CRASH"],
    }),
  );
});

test("several unsaved documents are one message, put off with one press", async () => {
  const documents = [
    "00000000-0000-7000-8000-000000000001",
    "00000000-0000-7000-8000-000000000002",
  ];
  answering({
    "/api/messages": [
      {
        id: "00000000-0000-7000-a000-000000000001",
        at: new Date().toISOString(),
        kind: "REMINDER",
        title: "Save 2 documents now?",
        words: "Save carriage-01.glb now?\nSave winch.glb now?",
        view: "/overview",
        documents,
      },
    ],
    ...Object.fromEntries(
      documents.map((d) => [
        `/api/documents/${d}/reminder/put-off`,
        () => new Response(null, { status: 204 }),
      ]),
    ),
  });
  const { user } = opened(NOTIFICATIONS);
  expect(await screen.findByText("Save 2 documents now?")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Not for 20 min" }));
  await waitFor(() =>
    expect(asked.filter((a) => a.what.includes("put-off"))).toEqual(
      documents.map((d) => ({
        what: `POST /api/documents/${d}/reminder/put-off`,
        sent: { minutes: 20 },
      })),
    ),
  );
  expect(screen.queryByText("Save 2 documents now?")).toBeNull();
});

test("work that nobody backs up comes with the folder it belongs in", async () => {
  answering({
    "/api/messages": [
      {
        id: "00000000-0000-7000-a000-000000000002",
        at: new Date().toISOString(),
        kind: "UNPLANNED",
        title: "bell.glb is backed up by nobody",
        words: "Tarn Modeller works on it in /home/ilse/Downloads.",
        view: "/start?folder=%2Fhome%2Filse%2FDownloads",
        documents: [],
        path: "/srv/tarnwick/carriage",
      },
    ],
  });
  const { user } = opened(NOTIFICATIONS);
  await user.click(await screen.findByRole("button", { name: "Copy the proper folder" }));
  expect(await navigator.clipboard.readText()).toBe("/srv/tarnwick/carriage");
  expect(screen.queryByText("bell.glb is backed up by nobody")).toBeNull();
});
