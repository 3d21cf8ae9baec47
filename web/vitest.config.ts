import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["src/**/*.test.{ts,tsx}"],
    environment: "node",
    setupFiles: ["src/testing/setup.ts"],
    // Modules are read once for all files: each test puts back what it changed of the page.
    isolate: false,
    maxWorkers: 2,
    testTimeout: 60_000,
    hookTimeout: 60_000,
    coverage: {
      provider: "v8",
      include: ["src/**/*.{ts,tsx}"],
      exclude: ["src/**/*.test.{ts,tsx}", "src/testing/**", "src/api/schema.ts"],
      reporter: ["json-summary"],
    },
  },
});
