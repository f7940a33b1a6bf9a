import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    projects: [
      { test: { name: "core", include: ["core/**/*.test.ts"], environment: "node", testTimeout: 30_000 } },
      { test: { name: "web", include: ["web/**/*.test.ts"], environment: "node" } },
      {
        test: {
          name: "server",
          include: ["server/**/*.test.ts", "cli/**/*.test.ts"],
          environment: "node",
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      // Two browsers at a time, and nothing beside them.
      {
        test: {
          name: "e2e",
          include: ["e2e/**/*.test.ts"],
          environment: "node",
          testTimeout: 240_000,
          hookTimeout: 120_000,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
