import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { cpus, totalmem } from "node:os";
import { benchBrowser } from "./browser";
import { benchCamera, benchFrames } from "./camera";
import { benchCode } from "./code";
import { benchEngine } from "./engine";
import { benchTold } from "./findings";
import { benchIntervals } from "./intervals";
import { benchJudge } from "./judge";
import { benchLinks } from "./links";
import { benchMachines } from "./machines";
import { benchRun } from "./run";
import { benchClass, benchFaults, benchFiles } from "./server";
import { benchStart } from "./start";
import { benchFindings, benchSuggestion } from "./suggestion";
import { type Row, table } from "./table";
import { benchVision } from "./vision";
import { benchWide } from "./wide";

const PARTS: Record<string, () => Row[] | Promise<Row[]>> = {
  judge: benchJudge,
  intervals: benchIntervals,
  run: benchRun,
  machines: benchMachines,
  vision: benchVision,
  camera: benchCamera,
  code: benchCode,
  engine: benchEngine,
  suggestion: benchSuggestion,
  wide: () => benchWide(),
  findings: benchFindings,
  told: () => benchTold(),
  start: benchStart,
  class: benchClass,
  files: benchFiles,
  faults: benchFaults,
  browser: benchBrowser,
  frames: benchFrames,
  links: benchLinks,
};

/**
 * Measures all budgets, or those of the parts that are named, and prints the report; with `--write` all of it also
 * becomes docs/benchmarks.md.
 */
async function main(): Promise<void> {
  const words = process.argv.slice(2);
  if (words[0] === "rows") {
    process.stdout.write(JSON.stringify(await PARTS[words[1]]()));
    return;
  }
  const named = words.filter((word) => word in PARTS);
  // Each in a process of its own, as at work: what an engine learns from one job shall not slow down another.
  const rows = (named.length > 0 ? named : Object.keys(PARTS)).flatMap((part): Row[] => {
    process.stderr.write(`${part} …\n`);
    return JSON.parse(
      execFileSync(process.execPath, [process.argv[1], "rows", part], {
        encoding: "utf8",
        stdio: ["ignore", "pipe", "inherit"],
      }),
    ) as Row[];
  });
  const [cpu] = cpus();
  const machine = `${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpu.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.versions.node}, Chromium without a window and without a graphics card`;
  const report = `# Benchmarks\n\nThe last output of \`npm run bench -- --write\`.\n\n${machine}\n\n${table(rows)}\n`;
  process.stdout.write(`\n${report}`);
  if (words.includes("--write") && named.length === 0) writeFileSync("docs/benchmarks.md", report);
}

void main();
