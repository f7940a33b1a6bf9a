import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { LANGUAGES, writeRules } from "@perceptum/core/code";
import { emptyProject } from "@perceptum/core/project";
import { banded } from "./ruleSet";
import type { Row } from "./table";

const RULES = 8;

/** Eight rules of three bands around eight hues, for a sensor that reports red, green and blue. */
function material() {
  const ruleSet = banded(RULES);
  const project = emptyProject("Bench");
  const [sensor] = project.sensors;
  const targets = ruleSet.rules.map(({ target }) => ({ ...project.targets[0], id: target, name: target }));
  const own = { ...sensor, ruleSet: ruleSet.id, reports: "rgb" as const };
  return { project: { ...project, targets, ruleSets: [ruleSet], sensors: [own] }, sensor: own };
}

const sourceIn = (key: string): { source: string; call: string } => {
  const { project, sensor } = material();
  const language = LANGUAGES.find((l) => l.key === key);
  if (language === undefined) throw new Error(`${key} is not written`);
  return { source: writeRules(language, project, [sensor]), call: `classify_${sensor.id.replaceAll("-", "_")}` };
};

/** Runs a program in a folder of its own and gives the readings a second that it says; undefined where it cannot be run. */
function rateOf(make: (folder: string) => [program: string, args: string[]]): number | undefined {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  try {
    const [program, args] = make(folder);
    const { stdout, status } = spawnSync(program, args, { encoding: "utf8" });
    return status === 0 ? Number(stdout) : undefined;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** How many readings a second the written rules take: as they are written, compiled or run by their language. */
export function benchCode(): Row[] {
  const c = rateOf((folder) => {
    const { source, call } = sourceIn("c");
    writeFileSync(join(folder, "rules.h"), source);
    writeFileSync(
      join(folder, "main.c"),
      `#include <stdio.h>
#include <time.h>
#include "rules.h"
static double raw[3][65536];
int main(void) {
  unsigned word = 1;
  for (int i = 0; i < 3 * 65536; i++) { word ^= word << 13; word ^= word >> 17; word ^= word << 5; raw[i / 65536][i % 65536] = word % 1024; }
  double best = 0;
  long sum = 0;
  for (int round = 0; round < 7; round++) {
    clock_t start = clock();
    for (int k = 0; k < 40; k++) for (int i = 0; i < 65536; i++) sum += ${call}(raw[0][i], raw[1][i], raw[2][i]);
    double rate = 40 * 65536 / ((double)(clock() - start) / CLOCKS_PER_SEC);
    if (rate > best) best = rate;
  }
  /* What is not used would not be worked out. */
  fprintf(stderr, "%ld\\n", sum);
  printf("%f\\n", best);
  return 0;
}
`,
    );
    const program = join(folder, "rules");
    spawnSync("cc", ["-std=c99", "-O2", "-o", program, join(folder, "main.c"), "-lm"]);
    return [program, []];
  });
  const python = rateOf((folder) => {
    const { source, call } = sourceIn("python");
    const file = join(folder, "rules.py");
    writeFileSync(
      file,
      `${source}
import random, time
random.seed(1)
rows = [(random.randrange(1024), random.randrange(1024), random.randrange(1024)) for _ in range(50000)]
best = 0
for _ in range(5):
    start = time.perf_counter()
    for first, second, third in rows:
        ${call}(first, second, third)
    best = max(best, len(rows) / (time.perf_counter() - start))
print(best)
`,
    );
    return ["python3", [file]];
  });
  const row = (what: string, rate: number | undefined, least: number): Row =>
    rate === undefined
      ? { what, measured: "cannot be run here", budget: "" }
      : {
          what,
          measured: `${Math.round(rate).toLocaleString("en")} readings/s`,
          budget: `≥ ${least.toLocaleString("en")} readings/s`,
          met: rate >= least,
        };
  return [
    row("written C (cc -O2), 8 rules × 3 bands, the best of 7 rounds", c, 10_000_000),
    row("written Python under python3, the same, the best of 5 rounds", python, 100_000),
  ];
}
