import { displayToLinear, hexToRgb } from "@perceptum/core/colour";
import { glasshouseRound } from "@perceptum/core/demo";
import { findAll } from "@perceptum/core/findings";
import { splitProject } from "@perceptum/core/project";
import { type Feature, featureReader, type Light, type Sensor } from "@perceptum/core/readings";
import type { Rule, Target } from "@perceptum/core/rules";
import { markedTapes, partOf, type Sample, suggest, tryRules } from "@perceptum/core/teaching";
import { type Chance, chance, SensorOptics } from "@perceptum/core/world";
import { type DrawnReading, drawnSample, USED } from "./drawnSample";
import { longProject } from "./longProject";
import type { Row } from "./table";

const DRAWS = 20;
const PER_TARGET = 80;

/** One draw: a sensor of its own and four lights, all targets read in each; the sample knows light and target. */
export function drawSet(seed: number): Sample {
  const dice = chance(seed, "draw");
  const demo = glasshouseRound();
  const targets = demo.targets;
  const about = (x: number, share: number) => x * (1 + share * (2 * dice.uniform() - 1));
  const [base] = demo.sensors;
  const optics = { ...base.optics, gain: base.optics.gain.map((g) => about(g, 0.04)) as [number, number, number] };
  const lights = Array.from({ length: 4 }, (_, i): Light => {
    const warmth = 0.25 * (2 * dice.uniform() - 1);
    const green = about(1, 0.15);
    return {
      id: `light-${i}` as Light["id"],
      name: `Light ${i + 1}`,
      rgb: [1 + warmth, green, 1 - warmth],
      level: 0.1 + 2 * dice.uniform(),
    };
  });
  const sensor = withReference({ ...base, optics }, lights[0], dice, targets);
  return readAll(sensor, lights, targets, dice);
}

/** White and dark as its owner took them, in the first light. */
function withReference(sensor: Sensor, light: Light, dice: Chance, targets: readonly Target[]): Sensor {
  const optics = new SensorOptics(sensor, light, targets);
  const signal = new Float64Array(3);
  const read = (reflectance: number) => {
    optics.signal([reflectance, reflectance, reflectance], 14, signal);
    const sums = [0, 0, 0];
    for (let i = 0; i < 50; i++)
      optics.measure(signal, dice).forEach((raw, c) => {
        sums[c] += raw / 50;
      });
    return sums;
  };
  return { ...sensor, reference: { dark: read(0), white: read(0.9) } };
}

function readAll(sensor: Sensor, lights: readonly Light[], targets: readonly Target[], dice: Chance): Sample {
  const read = featureReader(sensor);
  const rows: DrawnReading[] = [];
  lights.forEach((light, l) => {
    const optics = new SensorOptics(sensor, light, targets);
    const signal = new Float64Array(3);
    targets.forEach((target, t) => {
      const reflectance = hexToRgb(target.paint).map(displayToLinear);
      for (let i = 0; i < PER_TARGET; i++) {
        optics.signal(reflectance, 14 + 1.5 * dice.normal(), signal);
        const features = read(optics.measure(signal, dice));
        rows.push({ truth: t + 1, light: l + 1, visit: 100 * (l + 1) + t + 1, features });
      }
    });
  });
  return drawnSample({ targets, lights: lights.map(({ id, name }) => ({ id, name })) }, rows);
}

/** Gives the label of a reading of a sample: a target from 1. */
export type Judge = (sample: Sample, index: number) => number;

/** CIE L*, a*, b* from lightness, chroma and the angle that hue would have: here straight from r, g, b. */
function labOf(sample: Sample, i: number): [number, number, number] {
  const [r, g, b] = (["r", "g", "b"] as const).map((f) => displayToLinear(sample.column(f)[i]));
  const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116);
  const x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505);
  const y = f(0.2126 * r + 0.7152 * g + 0.0722 * b);
  const z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

/** k nearest neighbours in L*a*b*: the commonest target among the five nearest marked readings. */
export function nearestNeighbours(train: Sample, k = 5): Judge {
  const known = Array.from({ length: train.count }, (_, i) => labOf(train, i));
  return (sample, index) => {
    const here = labOf(sample, index);
    const best: { d: number; truth: number }[] = [];
    known.forEach((at, i) => {
      const d = (at[0] - here[0]) ** 2 + (at[1] - here[1]) ** 2 + (at[2] - here[2]) ** 2;
      if (best.length < k || d < best[k - 1].d) {
        best.push({ d, truth: train.truth[i] });
        best.sort((a, b) => a.d - b.d);
        best.length = Math.min(best.length, k);
      }
    });
    const votes = new Map<number, number>();
    for (const { truth } of best) votes.set(truth, (votes.get(truth) ?? 0) + 1);
    return [...votes].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
  };
}

type Node = { label: number } | { feature: Feature; at: number; low: Node; high: Node };

/** A decision tree of limited depth, grown by the greatest fall of Gini impurity on the same features. */
export function decisionTree(train: Sample, depth = 6): Judge {
  const value = (sample: Sample, feature: Feature, i: number) => {
    const v = sample.column(feature)[i];
    return Number.isNaN(v) ? -1 : v;
  };
  const classes = train.targets.length + 1;
  const gini = (counts: Uint32Array, n: number) => 1 - counts.reduce((sum, c) => sum + (c / n) ** 2, 0);
  const grow = (indices: number[], left: number): Node => {
    const counts = new Uint32Array(classes);
    for (const i of indices) counts[train.truth[i]]++;
    const label = counts.indexOf(Math.max(...counts));
    if (left === 0 || counts[label] === indices.length || indices.length < 10) return { label };
    let best: { feature: Feature; at: number; score: number } | undefined;
    for (const feature of USED) {
      const sorted = [...indices].sort((a, b) => value(train, feature, a) - value(train, feature, b));
      const below = new Uint32Array(classes);
      const above = counts.slice();
      for (let k = 0; k < sorted.length - 1; k++) {
        below[train.truth[sorted[k]]]++;
        above[train.truth[sorted[k]]]--;
        const [a, b] = [value(train, feature, sorted[k]), value(train, feature, sorted[k + 1])];
        if (a === b) continue;
        const score =
          ((k + 1) * gini(below, k + 1) + (sorted.length - k - 1) * gini(above, sorted.length - k - 1)) / sorted.length;
        if (best === undefined || score < best.score) best = { feature, at: (a + b) / 2, score };
      }
    }
    if (best === undefined) return { label };
    const { feature, at } = best;
    return {
      feature,
      at,
      low: grow(
        indices.filter((i) => value(train, feature, i) <= at),
        left - 1,
      ),
      high: grow(
        indices.filter((i) => value(train, feature, i) > at),
        left - 1,
      ),
    };
  };
  const root = grow(
    Array.from({ length: train.count }, (_, i) => i),
    depth,
  );
  return (sample, index) => {
    let node = root;
    while (!("label" in node)) node = value(sample, node.feature, index) <= node.at ? node.low : node.high;
    return node.label;
  };
}

/** What a judge makes of a sample: the share right, and the share of background readings taken for a target. */
export function score(sample: Sample, judge: Judge): { right: number; grounds: number } {
  const ground = [true, ...sample.targets.map((t) => t.kind === "background")];
  let [right, taken, grounds] = [0, 0, 0];
  for (let i = 0; i < sample.count; i++) {
    const label = judge(sample, i);
    const truth = sample.truth[i];
    if (ground[truth]) grounds++;
    if (ground[truth] ? ground[label] : label === truth) right++;
    else if (ground[truth]) taken++;
  }
  return { right: right / sample.count, grounds: taken / grounds };
}

const rulesJudge = (sample: Sample, rules: Rule[]) => {
  const { readings, right, grounds } = tryRules(sample, rules);
  const all = sample.truth.reduce((n, t) => n + (sample.targets[t - 1].kind === "background" ? 1 : 0), 0);
  return { right: right / readings, grounds: grounds / all };
};

/** The suggestion on lights that it has not seen, beside k nearest neighbours and a decision tree. */
export function benchSuggestion(): Row[] {
  const large = largeSample(12, 5000);
  let least = Number.POSITIVE_INFINITY;
  for (let round = 0; round < 12; round++) {
    const start = performance.now();
    suggest(large);
    least = Math.min(least, performance.now() - start);
  }
  const sums = { suggestion: [0, 0], neighbours: [0, 0], tree: [0, 0] };
  let bands = 0;
  for (let draw = 1; draw <= DRAWS; draw++) {
    const all = drawSet(draw);
    const train = partOf(all, (i) => all.light[i] < 4);
    const test = partOf(all, (i) => all.light[i] === 4);
    const rules = suggest(train).rules.map((r) => r.rule);
    bands = Math.max(bands, ...rules.flatMap((r) => r.any.map((c) => c.all.length)));
    for (const [name, result] of [
      ["suggestion", rulesJudge(test, rules)],
      ["neighbours", score(test, nearestNeighbours(train))],
      ["tree", score(test, decisionTree(train))],
    ] as const) {
      sums[name][0] += result.right / DRAWS;
      sums[name][1] += result.grounds / DRAWS;
    }
  }
  const percent = (x: number) => `${(100 * x).toFixed(2)} %`;
  const line = ([right, grounds]: number[]) => `${percent(right)} right, ${percent(grounds)} of backgrounds taken`;
  const { suggestion, neighbours, tree } = sums;
  return [
    {
      what: `suggestion in a light not seen, ${DRAWS} draws, at most ${bands} bands a target`,
      measured: line(suggestion),
      budget: "≥ the tree; backgrounds ≤ both",
      met: suggestion[0] >= tree[0] && suggestion[1] <= Math.min(neighbours[1], tree[1]) && bands <= 3,
    },
    { what: "— 5 nearest neighbours in L\\*a\\*b\\*, for comparison", measured: line(neighbours), budget: "" },
    { what: "— decision tree of depth 6, for comparison", measured: line(tree), budget: "" },
    {
      what: "suggestion for 12 targets × 5,000 readings",
      measured: `${Math.round(least)} ms`,
      budget: "≤ 300 ms",
      met: least <= 300,
    },
  ];
}

/** A sample of so many targets and readings each, in three lights: for the time that the suggestion takes. */
export function largeSample(targets: number, each: number): Sample {
  const dice = chance(5, "large");
  const n = targets * each;
  const kinds: Target[] = Array.from({ length: targets }, (_, t) => ({
    id: `target-${t}` as Target["id"],
    code: "TA",
    name: `Target ${t}`,
    kind: t < targets - 3 ? "tag" : "background",
    paint: "#808080",
  }));
  const features = USED;
  const columns = new Map<Feature, Float64Array>(features.map((f) => [f, new Float64Array(n)]));
  const truth = new Uint8Array(n);
  const light = new Uint8Array(n);
  for (let i = 0; i < n; i++) {
    const t = i % targets;
    truth[i] = t + 1;
    light[i] = 1 + (Math.floor(i / targets) % 3);
    const spread = () => 0.02 * dice.normal();
    features.forEach((f, k) => {
      const middle = ((t * (k + 3) * 0.37) % 1) * 0.8 + 0.1 + 0.02 * light[i];
      const share = Math.min(1, Math.max(0, middle + spread()));
      (columns.get(f) as Float64Array)[i] =
        f === "hue" ? share * 359 : f === "light" || f === "chroma" ? share * 100 : share;
    });
  }
  return {
    targets: kinds,
    lights: ["One", "Two", "Three"].map((name, i) => ({ id: `l-${i}` as Light["id"], name })),
    features,
    count: n,
    truth,
    light,
    visit: new Uint32Array(n),
    column: (feature) => columns.get(feature) as Float64Array,
  };
}

/** Findings on the demo with its tape repeated to 200 000 readings. */
export function benchFindings(): Row[] {
  const { document, readings } = splitProject(longProject());
  let least = Number.POSITIVE_INFINITY;
  const tapes = markedTapes(document, readings);
  for (let round = 0; round < 8; round++) {
    const start = performance.now();
    findAll({ project: document, tapes });
    least = Math.min(least, performance.now() - start);
  }
  return [
    {
      what: "all findings on 200 000 readings",
      measured: `${Math.round(least)} ms`,
      budget: "≤ 100 ms",
      met: least <= 100,
    },
  ];
}
