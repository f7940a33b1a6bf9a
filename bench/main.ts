import { writeFileSync } from "node:fs";
import { cpus, totalmem } from "node:os";
import { benchBrowser } from "./browser";
import { benchJudge } from "./judge";
import { benchRun } from "./run";
import { benchStart } from "./start";
import { benchFindings, benchSuggestion } from "./suggestion";
import { type Row, table } from "./table";

const PARTS: Record<string, () => Row[] | Promise<Row[]>> = {
  judge: benchJudge,
  run: benchRun,
  suggestion: benchSuggestion,
  findings: benchFindings,
  start: benchStart,
  browser: benchBrowser,
};

/**
 * Measures all budgets, or those of the parts that are named, and prints the report; with `--write` all of it also
 * becomes docs/benchmarks.md.
 */
async function main(): Promise<void> {
  const named = process.argv.slice(2).filter((word) => word in PARTS);
  const rows: Row[] = [];
  for (const part of named.length > 0 ? named : Object.keys(PARTS)) {
    process.stderr.write(`${part} …\n`);
    rows.push(...(await PARTS[part]()));
  }
  const [cpu] = cpus();
  const machine = `${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpu.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.versions.node}, Chromium without a window and without a graphics card`;
  const report = `# Benchmarks\n\nThe last output of \`npm run bench -- --write\`.\n\n${machine}\n\n${table(rows)}\n`;
  process.stdout.write(`\n${report}`);
  if (process.argv.includes("--write") && named.length === 0) writeFileSync("docs/benchmarks.md", report);
}

void main();
