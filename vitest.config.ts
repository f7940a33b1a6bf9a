import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/**
 * Browser tests begin, the longest first: the short files of the others fill what is left, and nobody waits for a long
 * one at the end.
 */
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const isLong = ({ moduleId }: TestSpecification) =>
      /(e2e\/(lasting|jobs|machines|cameras|sense|access|story|prove)|core\/code\/behaviour|cli\/src\/robot)\.test/.test(
        moduleId,
      );
    const rank = (file: TestSpecification) => 2 * Number(file.project.name === "e2e") + Number(isLong(file));
    return (await super.sort(files)).sort((a, b) => rank(b) - rank(a));
  }
}

/** One worker more than two processors have: a browser's test waits now and then for time to pass. */
const maxWorkers = 3;

export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
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
          maxWorkers,
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
          maxWorkers,
        },
      },
      // The page in a browser; each worker has its own.
      {
        test: {
          name: "e2e",
          globalSetup: "e2e/setup.ts",
          include: ["e2e/**/*.test.ts"],
          environment: "node",
          testTimeout: 240_000,
          hookTimeout: 120_000,
          isolate: false,
          maxWorkers,
        },
      },
    ],
  },
});
