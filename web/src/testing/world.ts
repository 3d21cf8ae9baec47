import { cleanup } from "@testing-library/react";
import { afterAll, afterEach, beforeAll, beforeEach } from "vitest";
import { fetchViews } from "../app/views";
import { begin, service } from "./app";

/** A service that answers, and a page put away after each test. */
export function inAWorld() {
  // A view asked for at the end of one file would fail for all files: the page would be gone before
  // it is read.
  beforeAll(fetchViews, 180_000);
  beforeAll(() => service.listen({ onUnhandledRequest: "error" }));
  beforeEach(begin);
  afterEach(cleanup);
  afterAll(() => service.close());
}
