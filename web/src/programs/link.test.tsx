// @vitest-environment happy-dom
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { PROGRAM, PROJECT } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const AT = `/api/projects/${PROJECT.id}`;

async function linking() {
  answering({ [`${AT}/program`]: { ...PROGRAM, linked: false, lines: [] } });
  const page = open("/programs");
  await page.user.click(
    await screen.findByRole("button", { name: "Show Kavrin its settings file" }),
  );
  return page;
}

test("a settings file is read, what its keys mean is proposed, and kept", async () => {
  const { user } = await linking();
  answering({
    "POST /api/programs/look": {
      file: "/home/ilse/.config/modeller.json",
      entries: [
        { key: "autosave.on", value: "true", from: 10, to: 14 },
        { key: "autosave.every", value: "5", from: 30, to: 31 },
      ],
      guess: { keys: { ENABLED: "autosave.on", INTERVAL: "autosave.every" }, unit: "MINUTES" },
    },
    [`PUT ${AT}`]: PROJECT,
  });
  await user.type(
    await screen.findByRole("textbox", { name: "Settings file" }),
    "~/.config/modeller.json",
  );
  expect(screen.getByLabelText<HTMLSelectElement>("Kind of settings file").value).toBe("JSON");
  await user.click(screen.getByRole("button", { name: "Read it" }));
  const interval = await screen.findByLabelText<HTMLSelectElement>(
    "Key that time between autosaves",
  );
  expect(interval.value).toBe("autosave.every");
  await user.selectOptions(screen.getByLabelText("Unit of the interval"), "SECONDS");
  const every = screen.getByLabelText("Minutes between its autosaves at most");
  await user.clear(every);
  await user.type(every, "10");
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(asked.some((a) => a.what === `PUT ${AT}`)).toBe(true));
  const sent = asked.find((a) => a.what === `PUT ${AT}`)?.sent as {
    program: { settings: object };
  };
  expect(sent.program.settings).toMatchObject({
    file: "~/.config/modeller.json",
    kind: "JSON",
    unit: "SECONDS",
    keys: { ENABLED: "autosave.on", INTERVAL: "autosave.every" },
    wanted: { enabled: true, interval: "PT600S" },
  });
});

test("an ending proposes the kind, which may be another; a file that is none says why", async () => {
  const { user } = await linking();
  answering({
    "POST /api/programs/look": () => problem(422, "settings", "Line 3 is no key and value."),
  });
  const file = await screen.findByRole("textbox", { name: "Settings file" });
  expect(screen.getByRole("button", { name: "Read it" })).toHaveProperty("disabled", true);
  await user.type(file, "/etc/modeller.reg");
  const kind = screen.getByLabelText<HTMLSelectElement>("Kind of settings file");
  expect(kind.value).toBe("REGISTRY");
  await user.selectOptions(kind, "LINES");
  await user.type(screen.getByLabelText("Separator between key and value"), ":");
  await user.click(screen.getByRole("button", { name: "Read it" }));
  expect(await screen.findByText("Line 3 is no key and value.")).toBeDefined();
  expect(screen.getByRole("button", { name: "Save" })).toHaveProperty("disabled", true);
});

const SAID = {
  found: { enabled: true, interval: "PT20M" },
  at: "2031-05-06T07:00:00Z",
  wanted: { enabled: true, interval: "PT5M" },
};

const LOOKED_UP = {
  ...PROGRAM,
  file: undefined,
  onlyRead: true,
  mayPut: false,
  lookedUp: SAID.at,
  lines: [
    {
      meaning: "INTERVAL",
      key: "time between its autosaves",
      found: "20",
      put: "5",
      standing: "DIFFERS",
      words: "time between its autosaves is 20 min, wanted: at most 5 min",
    },
  ],
};

const sentProgram = () =>
  (asked.find((a) => a.what === `PUT ${AT}`)?.sent as { program: { asked?: object } }).program;

test("where nothing can read the settings, a person says what the program shows", async () => {
  answering({
    [`${AT}/program`]: { ...PROGRAM, linked: false, lines: [] },
    [`PUT ${AT}`]: PROJECT,
  });
  const { user } = open("/programs");
  await user.click(await screen.findByRole("button", { name: "Say what the program shows" }));
  const save = screen.getByRole("button", { name: "Save" });
  expect(save, "nothing was looked up yet").toHaveProperty("disabled", true);
  await user.selectOptions(screen.getByLabelText("its own autosave"), "on");
  const every = screen.getByLabelText("Minutes between its autosaves");
  await user.clear(every);
  await user.type(every, "20");
  const most = screen.getByLabelText("Minutes between its autosaves at most");
  await user.clear(most);
  await user.type(most, "5");
  await user.click(save);
  await waitFor(() => expect(asked.some((a) => a.what === `PUT ${AT}`)).toBe(true));
  expect(sentProgram().asked, "without a time: the service's clock counts").toEqual({
    found: { enabled: true, interval: "PT1200S" },
    wanted: { enabled: true, interval: "PT300S" },
  });
});

test("after an update they are asked for again, and may still stand so", async () => {
  answering({
    [AT]: { ...PROJECT, program: { ...PROJECT.program, asked: SAID } },
    [`${AT}/program`]: { ...LOOKED_UP, updated: "2031-05-07T06:00:00Z" },
    [`PUT ${AT}`]: PROJECT,
  });
  const { user } = open("/programs");
  expect(await screen.findByText(/was updated .* after its settings were looked up/)).toBeDefined();
  expect(screen.getByText(/is 20 min, wanted: at most 5 min/)).toBeDefined();
  expect(screen.queryByRole("button", { name: "Put it right" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "They still stand so" }));
  await waitFor(() => expect(asked.some((a) => a.what === `PUT ${AT}`)).toBe(true));
  expect(sentProgram().asked).toEqual({ found: SAID.found, wanted: SAID.wanted });
  await user.click(screen.getByRole("button", { name: "Say what it shows now" }));
  expect(screen.getByLabelText<HTMLSelectElement>("its own autosave").value).toBe("on");
  await user.click(screen.getByRole("button", { name: "Forget what was said" }));
  await waitFor(() =>
    expect(asked.filter((a) => a.what === `PUT ${AT}`).at(-1)?.sent).not.toHaveProperty(
      "program.asked",
    ),
  );
});
