import { writeFileSync } from "node:fs";
import { cpus, totalmem } from "node:os";
import { benchBrowser } from "./browser";
import { benchJudge } from "./judge";
import { benchRun } from "./run";
import { benchStart } from "./start";
import { benchFindings, benchSuggestion } from "./suggestion";
import { type Row, table } from "./table";

/** Measures all budgets and prints the report; with `--write` it also becomes docs/benchmarks.md. */
async function main(): Promise<void> {
  const rows: Row[] = [];
  for (const part of [benchJudge, benchRun, benchSuggestion, benchFindings, benchStart, benchBrowser]) {
    process.stderr.write(`${part.name} …\n`);
    rows.push(...(await part()));
  }
  const [cpu] = cpus();
  const machine = `${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpu.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.versions.node}, Chromium without a window and without a graphics card`;
  const report = `# Benchmarks\n\nThe last output of \`npm run bench -- --write\`.\n\n${machine}\n\n${table(rows)}\n`;
  process.stdout.write(`\n${report}`);
  if (process.argv.includes("--write")) writeFileSync("docs/benchmarks.md", report);
}

void main();
