import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ReadingBlock } from "@perceptum/core/readings";
import { classifyBlock, steadyBlock, type Test } from "@perceptum/core/rules";
import { chance } from "@perceptum/core/world";
import { banded } from "./ruleSet";
import type { Row } from "./table";

const READINGS = 1_000_000;
const RULES = 8;
const FEATURES = ["hue", "sat", "val"] as const;

/** Eight rules of three bands around eight hues, and readings that fall in and between them. */
function material() {
  const draw = chance(4, "bench");
  const ruleSet = banded(RULES);
  const channel = () => Float64Array.from({ length: READINGS }, () => Math.floor(draw.uniform() * 1024));
  const raw = {
    t: Float64Array.from({ length: READINGS }, (_, i) => i * 20),
    channels: { r: channel(), g: channel(), b: channel() },
  };
  const sensor = {
    reports: "rgb" as const,
    scale: { r: [0, 1023], g: [0, 1023], b: [0, 1023] } as {
      r: [number, number];
      g: [number, number];
      b: [number, number];
    },
  };
  return { ruleSet, raw, sensor };
}

/** The best of several rounds, in ns a reading. */
function best(rounds: number, work: () => void): number {
  let least = Number.POSITIVE_INFINITY;
  for (let i = 0; i < rounds; i++) {
    const start = performance.now();
    work();
    least = Math.min(least, ((performance.now() - start) * 1e6) / READINGS);
  }
  return least;
}

/** Judging a block, beside the same loop in C where there is a compiler. */
export function benchJudge(): Row[] {
  const { ruleSet, raw, sensor } = material();
  const targets = ruleSet.rules.map((r) => r.target);
  const block = new ReadingBlock(raw, sensor);
  for (const f of FEATURES) block.column(f);
  let labels = classifyBlock(ruleSet, block, targets);
  const own = best(15, () => {
    labels = classifyBlock(ruleSet, block, targets);
  });
  const features = best(5, () => {
    const fresh = new ReadingBlock(raw, sensor);
    for (const f of FEATURES) fresh.column(f);
  });
  const steady = best(5, () => steadyBlock(labels, ruleSet.steady));
  const half = ruleSet.rules.slice(0, 4);
  const fewer = best(15, () => classifyBlock({ ...ruleSet, rules: half }, block, targets));
  const million = (ns: number) => (1000 / ns).toFixed(1);
  const rows: Row[] = [
    {
      what: "judge a block, 8 rules × 3 bands",
      measured: `${million(own)} M readings/s`,
      budget: "≥ 15 M readings/s",
      met: 1000 / own >= 15,
    },
    { what: "… with 4 rules", measured: `${million(fewer)} M readings/s`, budget: "" },
    { what: "features (hue, sat, val) of a block", measured: `${million(features)} M readings/s`, budget: "" },
    { what: "steady a block", measured: `${million(steady)} M readings/s`, budget: "" },
  ];
  const c = inC(
    block,
    ruleSet.rules.map((r) => r.any[0].all),
    labels,
  );
  rows.push(
    c === undefined
      ? { what: "the same loop in C", measured: "no C compiler here", budget: "" }
      : {
          what: "time against the same loop in C (cc -O2)",
          measured: `${(own / c).toFixed(2)} × (C: ${million(c)} M readings/s)`,
          budget: "≤ 2 ×",
          met: own / c <= 2,
        },
  );
  return rows;
}

function inC(block: ReadingBlock, rules: readonly (readonly Test[])[], labels: Uint8Array): number | undefined {
  const folder = mkdtempSync(join(tmpdir(), "perceptum-bench-"));
  try {
    const program = join(folder, "judge");
    if (spawnSync("cc", ["-O2", "-o", program, "bench/judge.c"]).status !== 0) return undefined;
    const head = BigInt64Array.of(BigInt(block.length), 3n, BigInt(rules.length), 3n);
    const tests = Buffer.concat(
      rules.flat().map(({ feature, from = 0, to = 1 }) => {
        const bytes = Buffer.alloc(24);
        bytes.writeBigInt64LE(BigInt(FEATURES.indexOf(feature as (typeof FEATURES)[number])), 0);
        bytes.writeDoubleLE(from, 8);
        bytes.writeDoubleLE(to, 16);
        return bytes;
      }),
    );
    const columns = FEATURES.map((f) => Buffer.from(block.column(f).buffer));
    writeFileSync(join(folder, "data"), Buffer.concat([Buffer.from(head.buffer), tests, ...columns]));
    const { stdout } = spawnSync(program, [join(folder, "data")], { encoding: "utf8" });
    const [ns, sum] = stdout.trim().split(" ");
    let own = 0n;
    for (const label of labels) own = BigInt.asUintN(64, own * 31n + BigInt(label));
    if (own !== BigInt(sum)) throw new Error("the C loop gives other labels");
    return Number(ns);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
