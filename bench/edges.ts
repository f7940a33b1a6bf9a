import { displayToLinear, hexToRgb } from "@perceptum/core/colour";
import { featureReader, NO_FEATURES, type Sensor } from "@perceptum/core/readings";
import { classify, type RuleSet, type Target } from "@perceptum/core/rules";
import { nearestFromMarks, partOf, type Sample, suggest } from "@perceptum/core/teaching";
import { chance } from "@perceptum/core/world";
import { shuffled } from "./drawnProject";
import { drawnSample } from "./drawnSample";
import { decisionTree, type Judge, nearestNeighbours } from "./suggestion";
import type { Row } from "./table";
import { comparedRows, linearDiscriminants } from "./wide";

const PAINTS = [
  "#c9252d",
  "#e07b1f",
  "#e0c02a",
  "#3f9a47",
  "#1f8f94",
  "#2f5fb0",
  "#7a4fa8",
  "#d86aa0",
  "#9ac43c",
  "#1d2f6f",
  "#f0efe8",
  "#f5a623",
  "#8a1c2b",
  "#3c3c3c",
];
/** Greys and, near targets in hue, brown, green, sand and white. */
const GROUNDS = ["#63676b", "#a8a59c", "#7d6248", "#2a2c2e", "#8a5a3a", "#5a7a4a", "#c9b48a", "#f4f4f0"];
/** The number of the light that is tried and not taught. */
const UNSEEN = 200;
/** Readings of each edge, from the ground to the target. */
const EDGE = 40;

/** A set with one to five targets on one or two grounds. */
export interface EdgeSet {
  /** Marks that end on the edge. */
  train: Sample;
  /** Readings in a light and at a height that were not taught. */
  test: Sample;
  /** There, each target's edge; the truth is the target. */
  edges: Sample;
}

/**
 * One drawn set: few targets, on grounds that may be near them in hue, taught in one to three lights with marks that
 * run on to where half of the spot is ground; tried in one more light, at another height.
 */
export function edgeSet(seed: number): EdgeSet {
  const dice = chance(seed, "edges");
  const about = (x: number, share: number) => x * (1 + share * (2 * dice.uniform() - 1));
  const upTo = (n: number) => Math.floor(n * dice.uniform());
  const tags = 1 + upTo(5);
  const grounds = 1 + upTo(2);
  const paints = [...shuffled(dice, PAINTS).slice(0, tags), ...shuffled(dice, GROUNDS).slice(0, grounds)];
  const targets = paints.map(
    (paint, i): Target => ({
      id: `t-${i}` as Target["id"],
      code: "TT",
      name: `Target ${i}`,
      kind: i >= tags ? "background" : "tag",
      paint,
    }),
  );
  const reflects = paints.map((paint) => hexToRgb(paint).map(displayToLinear));
  const mix = [0, 1, 2].map((i) => [0, 1, 2].map((k) => (i === k ? 1 : 0.08 * dice.uniform())));
  const gamma = about(1, 0.1);
  const gain = [0, 1, 2].map(() => about(0.6, 0.08));
  const noise = 0.0003 + 0.005 * dice.uniform();
  const raw = (rho: readonly number[], room: readonly number[], shade: readonly number[], lamp: number) => {
    const here = lamp / (1 + ((1.5 * dice.normal()) / 11) ** 2);
    const light = rho.map((r, c) => r * (0.85 * here + room[c] * shade[c]));
    return mix.map((row, c) => {
      const x = Math.max(0, row.reduce((sum, m, k) => sum + m * light[k], 0) * gain[c]);
      const y = x ** gamma + noise * (1 + Math.sqrt(x)) * dice.normal();
      return Math.max(0, Math.min(1023, Math.round(1023 * y)));
    });
  };
  const between = (a: number, b: number, share: number) =>
    reflects[a].map((x, c) => share * x + (1 - share) * reflects[b][c]);
  const rooms = Array.from({ length: 2 + upTo(3) }, () => {
    const warmth = 0.2 * (2 * dice.uniform() - 1);
    const level = 0.05 + 0.5 * dice.uniform();
    return [1 + warmth, about(1, 0.1), 1 - warmth].map((x) => x * level);
  });
  const rows: RawRow[] = [];
  const edges: RawRow[] = [];
  rooms.forEach((room, l) => {
    const last = l === rooms.length - 1;
    const lamp = last ? about(1, 0.25) : 1;
    targets.forEach((_, t) => {
      const n = 30 + upTo(120);
      const shade = [0, 1, 2].map(() => about(0.85, 0.15));
      const ground = tags + upTo(grounds);
      const over = last || t >= tags ? 0 : 1 + upTo(4);
      for (let i = 0; i < n; i++) {
        const share = i < n - over ? 1 : 0.5 + 0.5 * dice.uniform();
        rows.push({
          truth: t + 1,
          light: last ? UNSEEN : l + 1,
          raw: raw(between(t, ground, share), room, shade, lamp),
        });
      }
      for (let i = 0; last && t < tags && i < EDGE; i++) {
        const share = (i + 0.5) / EDGE;
        edges.push({ truth: t + 1, light: UNSEEN, raw: raw(between(t, ground, share), room, shade, lamp) });
      }
    });
  });
  const card = (rho: number, room: readonly number[]) => {
    const sums = [0, 0, 0];
    for (let i = 0; i < 40; i++)
      raw([rho, rho, rho], room, [1, 1, 1], 1).forEach((v, c) => {
        sums[c] += v / 40;
      });
    return sums;
  };
  const reference = { white: card(0.9, rooms[0]), dark: card(0, [0, 0, 0]) };
  const scale: Sensor["scale"] = { r: [0, 1023], g: [0, 1023], b: [0, 1023] };
  const read = featureReader({ reports: "rgb", scale, order: "rgb", reference } as Sensor);
  const sampleOf = (list: readonly RawRow[]) =>
    drawnSample(
      { targets, lights: [] },
      // A mark is a target in a light.
      list.map(({ truth, light, raw: values }) => ({
        truth,
        light,
        visit: 256 * light + truth,
        features: read(values),
      })),
    );
  const all = sampleOf(rows);
  const unseen = (i: number) => all.light[i] === UNSEEN;
  return {
    train: partOf(all, (i) => !unseen(i)),
    test: partOf(all, unseen),
    edges: sampleOf(edges),
  };
}

interface RawRow {
  truth: number;
  light: number;
  raw: number[];
}

const EMPTY: RuleSet = {
  id: "drawn" as RuleSet["id"],
  name: "drawn",
  method: "bands",
  rules: [],
  nearest: { references: [], reject: 1 },
  steady: { hits: 1, of: 1, release: 1, rejoinMs: 0 },
};

function judgeBy(set: RuleSet): Judge {
  return (sample, i) => {
    const known = Object.fromEntries(sample.features.map((f) => [f, sample.column(f)[i]]));
    const label = classify(set, { ...NO_FEATURES, ...known });
    return label === "unknown" ? 0 : sample.targets.findIndex((t) => t.id === label) + 1;
  };
}

/** Percent of readings judged rightly, and percent of an edge's that are taken for a third thing. */
function measured({ test, edges }: EdgeSet, judge: Judge): { right: number; third: number } {
  const ground = (t: number) => t === 0 || test.targets[t - 1].kind === "background";
  const share = (sample: Sample, holds: (label: number, truth: number) => boolean) => {
    let n = 0;
    for (let i = 0; i < sample.count; i++) if (holds(judge(sample, i), sample.truth[i])) n++;
    return (100 * n) / sample.count;
  };
  return {
    right: share(test, (label, truth) => (ground(truth) ? ground(label) : label === truth)),
    third: share(edges, (label, truth) => !ground(label) && label !== truth),
  };
}

const SETS = 100;

/** Measures the suggestion with few targets, edges, and a light and height that were not taught. */
export function benchEdges(first = 92_000): Row[] {
  const results: Record<string, { right: number; third: number }[]> = {};
  const note = (name: string, result: { right: number; third: number }) => {
    results[name] = [...(results[name] ?? []), result];
    return result;
  };
  for (let seed = first; seed < first + SETS; seed++) {
    const set = edgeSet(seed);
    const bands = note(
      "bands",
      measured(set, judgeBy({ ...EMPTY, rules: suggest(set.train).rules.map((r) => r.rule) })),
    );
    const nearest = note("nearest", measured(set, judgeBy(nearestFromMarks(EMPTY, set.train))));
    note("better", bands.right >= nearest.right ? bands : nearest);
    note("neighbours", measured(set, nearestNeighbours(set.train)));
    note("tree", measured(set, decisionTree(set.train)));
    note("discriminants", measured(set, linearDiscriminants(set.train)));
  }
  const sorted = (name: string) => results[name].map((r) => r.right).sort((a, b) => a - b);
  const median = (name: string) => sorted(name)[SETS >> 1];
  const line = (name: string) => {
    const third = results[name].reduce((sum, r) => sum + r.third, 0) / SETS;
    return `${median(name).toFixed(1)} % right, worst tenth ${sorted(name)[SETS / 10].toFixed(1)} %; ${third.toFixed(1)} % of edges taken for a third thing`;
  };
  const best = Math.max(median("neighbours"), median("tree"), median("discriminants"));
  const title = `median of ${SETS} sets of one to five targets with edges, in a light and at a height not seen`;
  return [
    {
      what: `bands: ${title}`,
      measured: line("bands"),
      budget: `within 2 of nearest references, ${median("nearest").toFixed(1)} %`,
      met: median("bands") >= median("nearest") - 2,
    },
    {
      what: `the better of bands and nearest: ${title}`,
      measured: line("better"),
      budget: `within 1 of ${best.toFixed(1)} %`,
      met: median("better") >= best - 1,
    },
    ...comparedRows(line),
  ];
}
