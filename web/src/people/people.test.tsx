// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import axe from "axe-core";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { overview, PROJECT, project, SESSION, ago } from "../testing/fixtures";
import { inAWorld } from "../testing/world";
import { browserName } from "./Own";

inAWorld();

const CHROME =
  "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36";
const SESSIONS = [
  { id: "s1", from: "127.0.0.1", browser: CHROME, since: ago(60), lastUsed: ago(1), here: true },
  {
    id: "s2",
    from: "10.0.0.7",
    browser: "curl/8",
    since: ago(600),
    lastUsed: ago(90),
    here: false,
  },
];
const PEOPLE = [
  {
    name: "Ilse Quarn",
    grants: [{ role: "ADMINISTER" }],
    password: false,
    waiting: false,
    whole: true,
  },
  {
    name: "Maren Holt",
    grants: [{ project: PROJECT.id, role: "LOOK" }],
    password: true,
    waiting: false,
    whole: true,
  },
];

function opened() {
  answering({ "/api/people": PEOPLE, "/api/session/all": SESSIONS });
  return open("/people");
}

const sentTo = (what: string) => asked.filter((a) => a.what === what).map((a) => a.sent);

test("who has no session signs in by name and password", async () => {
  answering({
    "/api/session": () => problem(401, "no-session", "You are not signed in."),
    "POST /api/sign-in": () =>
      problem(401, "wrong-password", "Name and password do not go together."),
  });
  const { user } = open("/versions");
  const button = await screen.findByRole("button", { name: "Sign in" });
  expect(button).toHaveProperty("disabled", true);
  await user.type(screen.getByLabelText("Name"), "Maren Holt");
  await user.type(screen.getByLabelText("Password"), "not mine{Enter}");
  expect(await screen.findByText("Name and password do not go together.")).toBeDefined();
  answering({
    "/api/session": SESSION,
    "POST /api/sign-in": () => new Response(null, { status: 204 }),
  });
  await user.click(button);
  expect(await screen.findByRole("button", { name: "Ilse Quarn" })).toBeDefined();
  expect(sentTo("POST /api/sign-in").at(-1)).toEqual({ name: "Maren Holt", password: "not mine" });
});

test("an invitation asks for one password twice, and for no short one", async () => {
  answering({ "/api/invitation": { name: "Maren Holt" } });
  const { user } = open("/invitation?token=t1");
  await screen.findByRole("heading", { name: "Welcome, Maren Holt" });
  const button = screen.getByRole("button", { name: "Choose and sign in" });
  await user.type(screen.getByLabelText("Password"), "six winches on");
  await user.type(screen.getByLabelText("The same again"), "six winches");
  expect(screen.getByText("These two are not the same.")).toBeDefined();
  expect(button).toHaveProperty("disabled", true);
  await user.type(screen.getByLabelText("The same again"), " on");
  answering({ "POST /api/invitation": () => new Response(null, { status: 204 }) });
  await user.click(button);
  await waitFor(() =>
    expect(sentTo("POST /api/invitation")).toEqual([{ token: "t1", password: "six winches on" }]),
  );
});

test("a used invitation says what to do", async () => {
  answering({ "/api/invitation": () => problem(404, "not-found", "Ask for a new one.") });
  open("/invitation?token=t1");
  expect(await screen.findByText("This invitation opens nothing")).toBeDefined();
  expect(screen.getByText("Ask for a new one.")).toBeDefined();
});

test("somebody is invited with a role in a project, and the link is shown once", async () => {
  const { user } = opened();
  await screen.findByRole("heading", { name: "2 people let in" });
  const form = within(
    screen.getByRole("heading", { name: "Invite somebody" }).parentElement as HTMLElement,
  );
  await user.type(form.getByLabelText("Name of whom you invite"), "Tarek Osei");
  await user.selectOptions(form.getByLabelText("May"), "PLAN");
  await user.selectOptions(form.getByLabelText("In"), PROJECT.id);
  await user.click(form.getByRole("button", { name: "Allow" }));
  answering({ "POST /api/people": { path: "/invitation?token=abc" } });
  await user.click(form.getByRole("button", { name: "Invite" }));
  expect(await screen.findByText(`${window.location.origin}/invitation?token=abc`)).toBeDefined();
  expect(sentTo("POST /api/people")).toEqual([
    { name: "Tarek Osei", grants: [{ project: PROJECT.id, role: "PLAN" }] },
  ]);
});

test("who administers one project gives rights there, and sees what is not theirs to change", async () => {
  const here = { ...SESSION, everywhere: undefined };
  const { user } = opened();
  answering({
    "/api/session": { ...here, name: "Wim Aalto", rights: { [PROJECT.id]: "ADMINISTER" } },
    "/api/people": PEOPLE.map((p) => ({ ...p, whole: p.name === "Maren Holt" })),
    "POST /api/people": {},
  });
  await screen.findByRole("heading", { name: "2 people let in" });
  await waitFor(() => expect(screen.getAllByRole("button", { name: "Remove" })).toHaveLength(1));
  expect(
    screen.queryByRole("button", { name: "Take away: administer in every project" }),
  ).toBeNull();
  const form = within(
    screen.getByRole("heading", { name: "Invite somebody" }).parentElement as HTMLElement,
  );
  expect(form.queryByRole("option", { name: "every project" })).toBeNull();
  await user.type(form.getByLabelText("Name of whom you invite"), "Ida Brok");
  await user.click(form.getByRole("button", { name: "Allow" }));
  await user.click(form.getByRole("button", { name: "Invite" }));
  expect(await screen.findByText(/Ida Brok signs in already/)).toBeDefined();
  expect(sentTo("POST /api/people")).toEqual([
    { name: "Ida Brok", grants: [{ project: PROJECT.id, role: "RESTORE" }] },
  ]);
});

test("a right is taken away, and a person only after a second word", async () => {
  const { user } = opened();
  answering({
    "PUT /api/people/Maren%20Holt/grants": () => new Response(null, { status: 204 }),
    "DELETE /api/people/Maren%20Holt": () => new Response(null, { status: 204 }),
  });
  await user.click(await screen.findByRole("button", { name: /^Take away: look in/ }));
  await waitFor(() =>
    expect(sentTo("PUT /api/people/Maren%20Holt/grants")).toEqual([{ grants: [] }]),
  );
  await user.click(screen.getByRole("button", { name: "Remove" }));
  expect(sentTo("DELETE /api/people/Maren%20Holt")).toEqual([]);
  await user.click(screen.getByRole("button", { name: "Yes, show Maren Holt out" }));
  await waitFor(() => expect(sentTo("DELETE /api/people/Maren%20Holt")).toHaveLength(1));
});

test("one's sessions are told apart and ended elsewhere", async () => {
  const { user } = opened();
  expect(await screen.findByText("Chrome on Linux")).toBeDefined();
  answering({ "DELETE /api/session/all/s2": () => new Response(null, { status: 204 }) });
  await user.click(screen.getByRole("button", { name: "Sign out there" }));
  await waitFor(() => expect(sentTo("DELETE /api/session/all/s2")).toHaveLength(1));
});

test("a refused password says why", async () => {
  const { user } = opened();
  answering({
    "PUT /api/session/password": () => problem(422, "wrong-password", "That is not your password."),
  });
  await user.type(await screen.findByLabelText("Password until now"), "old");
  await user.type(screen.getByLabelText("New password"), "five buckets of grease");
  await user.click(screen.getByRole("button", { name: "Change" }));
  expect(await screen.findByText("That is not your password.")).toBeDefined();
});

test("who may only look sees nothing to press that would be refused", async () => {
  answering({
    "/api/session": {
      name: "Maren Holt",
      roots: [],
      zone: "UTC",
      rights: { [PROJECT.id]: "LOOK" },
    },
    "/api/overview": overview(project()),
    "/api/session/all": SESSIONS,
  });
  const { user } = open("/overview");
  await screen.findByRole("link", { name: "carriage-01.glb" });
  expect(screen.queryByRole("button", { name: "Add a project" })).toBeNull();
  expect(screen.queryByRole("button", { name: "It crashed" })).toBeNull();
  expect(screen.queryByRole("link", { name: /Folders/ })).toBeNull();
  expect(asked.some((a) => a.what === "GET /api/notifications")).toBe(false);
  await user.click(screen.getByRole("button", { name: "Maren Holt" }));
  await user.click(await screen.findByRole("menuitem", { name: "Sessions and password" }));
  expect(await screen.findByRole("heading", { level: 1, name: "Maren Holt" })).toBeDefined();
  expect(asked.some((a) => a.what === "GET /api/people")).toBe(false);
});

test.each(["light", "dark"])("people and the door can be used by everybody, %s", async (mode) => {
  localStorage.setItem("kavrin.mode", mode);
  const rules = { rules: { "color-contrast": { enabled: false } } };
  const { unmount } = opened();
  await screen.findByText("Chrome on Linux");
  expect((await axe.run(document.body, rules)).violations).toEqual([]);
  unmount();
  answering({ "/api/session": () => problem(401, "no-session", "You are not signed in.") });
  open("/");
  await screen.findByRole("button", { name: "Sign in" });
  expect((await axe.run(document.body, rules)).violations).toEqual([]);
});

test("a browser has the name people know it by", () => {
  expect(browserName(CHROME)).toBe("Chrome on Linux");
  expect(browserName("Mozilla/5.0 (Windows NT 10.0) Gecko/20100101 Firefox/128.0")).toBe(
    "Firefox on Windows",
  );
  expect(browserName("curl/8")).toBe("another program");
});
