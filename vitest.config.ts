import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: "unit",
          include: [
            "core/**/*.test.ts",
            "profiles/**/*.test.ts",
            "sim/**/*.test.ts",
            "app/**/*.test.ts",
            "cli/**/*.test.ts",
          ],
          environment: "node",
          // The files share what they import: reading it anew for each takes longer than the tests.
          isolate: false,
          // All processors: the default leaves one free.
          maxWorkers: "100%",
          // Properties over many random systems take their time on a busy machine.
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: "integration",
          include: ["tests/integration/**/*.test.ts", "db/**/*.test.ts"],
          environment: "node",
          fileParallelism: false,
          testTimeout: 60_000,
          hookTimeout: 120_000,
        },
      },
      {
        // Trials that take minutes; `./iteron test strength` and `./iteron test cluster` run them.
        test: {
          name: "strength",
          include: ["tests/strength/**/*.test.ts", "tests/cluster/**/*.test.ts"],
          environment: "node",
          fileParallelism: false,
          testTimeout: 1_800_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
});
