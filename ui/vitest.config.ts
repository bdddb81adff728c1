import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["tests/**/*.test.ts"],
    coverage: {
      include: ["src/logic/**/*.ts"],
      reportsDirectory: "../build/coverage",
      reporter: [],
      // Of every module, also one that no test imports. What asks a server is asked in a browser.
      thresholds: { perFile: true, lines: 50 },
    },
  },
});
