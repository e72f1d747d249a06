import { defineConfig } from "vitest/config";

// Tests of plain functions share their modules, which takes a third less time; what draws has them to itself.
export default defineConfig({
  test: {
    projects: [
      { test: { name: "functions", include: ["src/**/*.test.ts"], isolate: false } },
      { test: { name: "parts", include: ["src/**/*.test.tsx"] } },
    ],
  },
});
