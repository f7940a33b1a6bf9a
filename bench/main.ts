import { execFileSync } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { cpus, totalmem } from "node:os";
import { benchBrowser } from "./browser";
import { benchCamera, benchFrames } from "./camera";
import { benchCode } from "./code";
import { benchEdges } from "./edges";
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
  wide: () => [...benchWide(), ...benchEdges()],
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

const FILE = "docs/benchmarks.md";
const INTRO =
  "Each part as it was measured last, by `npm run bench -- --write` or `npm run bench -- PART --write`. A part that was measured on another day met another pace of the machine.";

/** The parts that a report holds, each with its heading's day and its table. */
function sectionsOf(report: string): Map<string, string> {
  const [, ...sections] = report.split(/^## /m);
  return new Map(sections.map((section) => [section.split(",")[0], `## ${section.trimEnd()}`]));
}

/**
 * Measures all budgets, or those of the parts that are named, and prints the report; with `--write` the parts that were
 * measured take their places in docs/benchmarks.md.
 */
async function main(): Promise<void> {
  const words = process.argv.slice(2);
  if (words[0] === "rows") {
    process.stdout.write(JSON.stringify(await PARTS[words[1]]()));
    return;
  }
  const named = words.filter((word) => word in PARTS);
  const day = new Date().toISOString().slice(0, 10);
  const measured = new Map<string, string>();
  // Each in a process of its own, as at work: what an engine learns from one job shall not slow down another.
  for (const part of named.length > 0 ? named : Object.keys(PARTS)) {
    process.stderr.write(`${part} …\n`);
    const rows = JSON.parse(
      execFileSync(process.execPath, [process.argv[1], "rows", part], {
        encoding: "utf8",
        stdio: ["ignore", "pipe", "inherit"],
      }),
    ) as Row[];
    measured.set(part, `## ${part}, ${day}\n\n${table(rows)}`);
  }
  const [cpu] = cpus();
  const machine = `${cpus().length} × ${cpu.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.versions.node}, Chromium without a window and without a graphics card`;
  const report = (parts: ReadonlyMap<string, string>) =>
    `${["# Benchmarks", INTRO, machine, ...Object.keys(PARTS).flatMap((part) => parts.get(part) ?? [])].join("\n\n")}\n`;
  process.stdout.write(`\n${report(measured)}`);
  if (!words.includes("--write")) return;
  const before = existsSync(FILE) ? sectionsOf(readFileSync(FILE, "utf8")) : new Map<string, string>();
  writeFileSync(FILE, report(new Map([...before, ...measured])));
}

void main();
