import { expect, test } from "vitest";
import { VIEWS, viewAt } from "./where";

test("an address belongs to the view of its first name, and to none that only begins alike", () => {
  for (const view of VIEWS) {
    expect(viewAt(`/${view.path}`)).toBe(view);
    expect(viewAt(`/${view.path}/00000000-0000-7000-8000-000000000001`)).toBe(view);
  }
  expect(viewAt("/recovery-test/x")).toBeUndefined();
  expect(viewAt("/recover-several/x")).toBeUndefined();
});
