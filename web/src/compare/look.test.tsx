// @vitest-environment happy-dom
import { ChakraProvider } from "@chakra-ui/react";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test } from "vitest";
import { system } from "../theme/system";
import { Edge } from "./Look";

afterEach(cleanup);

test("the edge between A and B is slid by the arrow keys", async () => {
  render(
    <ChakraProvider value={system}>
      <Edge look="edge" over="over" a="only A" b="only B" />
    </ChakraProvider>,
  );
  const edge = screen.getByRole("slider", { name: "Where A ends and B begins" });
  expect(edge.getAttribute("aria-valuenow")).toBe("50");
  edge.focus();
  await userEvent.keyboard("{ArrowLeft}{ArrowLeft}{End}");
  expect(edge.getAttribute("aria-valuenow")).toBe("100");
  await userEvent.keyboard("{ArrowLeft}");
  expect(edge.getAttribute("aria-valuenow")).toBe("99");
});
