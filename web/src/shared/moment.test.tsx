// @vitest-environment happy-dom
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { system } from "../theme/system";
import { MomentField } from "./MomentField";

afterEach(cleanup);

function field(value: string | undefined, zone: string) {
  const said = vi.fn<(moment: string | undefined) => void>();
  render(
    <ChakraProvider value={system}>
      <MomentField label="As of" value={value} zone={zone} onChange={said} />
    </ChakraProvider>,
  );
  return said;
}

const part = (name: RegExp) => screen.getByRole("spinbutton", { name });

test("a moment stands as the wall clock of its zone shows it, day before month", () => {
  field("2031-03-03T13:05:00Z", "Europe/Zurich");
  expect(part(/hour/).textContent).toBe("14");
  expect(part(/minute/).textContent).toBe("05");
  expect(screen.getAllByRole("spinbutton").map((s) => s.textContent)).toEqual([
    "03",
    "Mar",
    "2031",
    "14",
    "05",
  ]);
});

test("a part is stepped by an arrow key, and the moment told in ISO 8601", async () => {
  const said = field("2031-03-03T13:05:00Z", "Europe/Zurich");
  part(/day/).focus();
  await userEvent.keyboard("{ArrowUp}");
  expect(said).toHaveBeenLastCalledWith("2031-03-04T13:05:00.000Z");
});

// tz database: in Zurich 2031 the clocks go forward on 30 March at 02:00.
test("the same hour of the next day is an hour sooner where the clocks go forward", async () => {
  const said = field("2031-03-29T11:00:00Z", "Europe/Zurich");
  part(/day/).focus();
  await userEvent.keyboard("{ArrowUp}");
  expect(said).toHaveBeenLastCalledWith("2031-03-30T10:00:00.000Z");
});
