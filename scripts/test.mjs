import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join, relative } from "node:path";
import { ensureBuilt, ensureChromium, ensureInstalled, ensurePython, ensureTools, ROOT } from "./workspace.mjs";

/** The number of slowest tests that are told. */
const SLOWEST = 10;

/** Types, lint, then every test; the last line counts them. Arguments go to Vitest, to run a part. */
ensureInstalled();
ensurePython();
ensureTools();
const chromium = ensureChromium();

/** The tests that took longest, with their files: there time can be won. */
function tellSlowest(files) {
  const all = files.flatMap(({ name, assertionResults }) =>
    assertionResults.map(({ fullName, duration = 0 }) => ({ file: relative(ROOT, name), fullName, duration })),
  );
  process.stdout.write("The slowest tests:\n");
  for (const { file, fullName, duration } of all.sort((a, b) => b.duration - a.duration).slice(0, SLOWEST))
    process.stdout.write(`${(duration / 1000).toFixed(1).padStart(7)} s  ${file}: ${fullName}\n`);
}

let passed = 0;
let failed = 0;
const count = (ok) => (ok ? passed++ : failed++);
process.stdout.write("types, lint …\n");
const checks = ["types", "lint"].map((check) => {
  const child = spawn("npm", ["run", "--silent", check], { cwd: ROOT, stdio: ["ignore", "inherit", "inherit"] });
  return new Promise((done) => child.on("close", (code) => done(code === 0)));
});
await ensureBuilt();
for (const ok of await Promise.all(checks)) count(ok);

const report = join(ROOT, ".cache/tests.json");
mkdirSync(join(ROOT, ".cache"), { recursive: true });
rmSync(report, { force: true });
const vitest = spawnSync(
  "npx",
  ["vitest", "run", "--reporter=default", "--reporter=json", `--outputFile.json=${report}`, ...process.argv.slice(2)],
  {
    cwd: ROOT,
    stdio: ["ignore", "inherit", "inherit"],
    // Components are tried with React for development, which tells of its warnings.
    env: { ...process.env, NODE_ENV: "test", CHROMIUM: chromium, FORCE_COLOR: "0" },
  },
);
try {
  const { numPassedTests, numFailedTests, numFailedTestSuites, testResults } = JSON.parse(readFileSync(report, "utf8"));
  passed += numPassedTests;
  // A file that could not be loaded has no tests of its own to fail.
  failed += Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0);
  tellSlowest(testResults);
} catch {
  failed++;
}
if (vitest.status !== 0 && failed === 0) failed++;
process.stdout.write(`${passed} passed, ${failed} failed\n`);
process.exitCode = failed === 0 ? 0 : 1;
