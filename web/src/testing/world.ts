import { cleanup } from "@testing-library/react";
import { afterAll, afterEach, beforeAll, beforeEach } from "vitest";
import { begin, service } from "./app";

/** A service that answers, and a page put away after each test. */
export function inAWorld() {
  beforeAll(() => service.listen({ onUnhandledRequest: "error" }));
  beforeEach(begin);
  afterEach(cleanup);
  afterAll(() => service.close());
}
