import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/** The files that take longest begin first, so that nobody waits for one of them at the end; Vitest goes by their size. */
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const isLong = ({ moduleId }: TestSpecification) =>
      /(e2e\/(lasting|jobs|machines|cameras|sense|access|story|prove)|core\/code\/behaviour|cli\/src\/robot)\.test/.test(
        moduleId,
      );
    return (await super.sort(files)).sort((a, b) => Number(isLong(b)) - Number(isLong(a)));
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
    // Two workers for each: Vitest would take one fewer than there are cores.
    projects: [
      // Core, model, server, command line and scripts together: what they share is read once, and files keep no state of their own.
      {
        test: {
          name: "unit",
          include: ["{core,contract,web,server,cli,wires,lowering}/**/*.test.ts", "scripts/*.test.mjs"],
          environment: "node",
          testTimeout: 120_000,
          hookTimeout: 120_000,
          isolate: false,
          maxWorkers: 2,
        },
      },
      // Components in a simulated page, by roles and names.
      {
        test: {
          name: "components",
          include: ["web/**/*.test.tsx"],
          environment: "happy-dom",
          testTimeout: 30_000,
          isolate: false,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
      // Two browsers at a time, and nothing beside them.
      {
        test: {
          name: "e2e",
          globalSetup: "e2e/setup.ts",
          include: ["e2e/**/*.test.ts"],
          environment: "node",
          testTimeout: 240_000,
          hookTimeout: 120_000,
          isolate: false,
          maxWorkers: 2,
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
