import { defineConfig } from "vitest/config";

// Tests share their modules, which takes half the time; each takes down what it has drawn.
export default defineConfig({
  test: {
    testTimeout: 30_000,
    projects: [
      { test: { name: "functions", include: ["src/**/*.test.ts"], isolate: false } },
      { test: { name: "parts", include: ["src/**/*.test.tsx"], isolate: false } },
    ],
  },
});
