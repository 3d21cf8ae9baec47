import { configure } from "@testing-library/react";

// A machine whose cores are busy with other things takes its time.
configure({ asyncUtilTimeout: 20_000 });

// One region for all, whatever the machine the tests run on speaks.
if (typeof navigator !== "undefined") {
  Object.defineProperty(navigator, "language", { value: "en-GB", configurable: true });
}
