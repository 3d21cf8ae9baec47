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
