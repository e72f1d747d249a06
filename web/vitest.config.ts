import { defineConfig } from "vitest/config";

// Tests share their modules, which takes half the time. A machine that is busy with something else is no failure.
const together = { isolate: false, testTimeout: 30_000 };

export default defineConfig({
  test: {
    projects: [
      { test: { name: "functions", include: ["src/**/*.test.ts"], ...together } },
      { test: { name: "parts", include: ["src/**/*.test.tsx"], setupFiles: ["src/testing.setup.ts"], ...together } },
    ],
  },
});
