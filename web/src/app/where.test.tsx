// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { BrowserRouter } from "react-router";
import { expect, test } from "vitest";
import { VIEWS, useGo, viewAt } from "./where";

test("an address belongs to the view of its first name, and to none that only begins alike", () => {
  for (const view of VIEWS) {
    expect(viewAt(`/${view.path}`)).toBe(view);
    expect(viewAt(`/${view.path}/00000000-0000-7000-8000-000000000001`)).toBe(view);
  }
  expect(viewAt("/recovery-test/x")).toBeUndefined();
  expect(viewAt("/recover-several/x")).toBeUndefined();
});

test("what ends while the person goes elsewhere takes nobody back", () => {
  window.history.replaceState(null, "", "/recover/x");
  const { result } = renderHook(useGo, { wrapper: BrowserRouter });
  const begun = result.current;
  act(() => begun.go("/overview"));
  begun.goOn("/crash-report/x");
  expect(window.location.pathname).toBe("/overview");
  result.current.goOn("/crash-report/x");
  expect(window.location.pathname).toBe("/crash-report/x");
});
