import { displayToLinear, hexToRgb } from "@perceptum/core/colour";
import { featureReader, type Sensor } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { partOf, type Sample, suggest, tryNearest, tryRules } from "@perceptum/core/teaching";
import { chance } from "@perceptum/core/world";
import { shuffled } from "./drawnProject";
import { drawnSample } from "./drawnSample";
import { decisionTree, type Judge, nearestNeighbours, score } from "./suggestion";
import type { Row } from "./table";

const PAINTS = [
  "#c8322e",
  "#e07b1f",
  "#e0c02a",
  "#3f9a47",
  "#1f8f94",
  "#2f5fb0",
  "#7a4fa8",
  "#d86aa0",
  "#8a4a2a",
  "#9ac43c",
  "#1d2f6f",
  "#f0efe8",
] as const;
const GROUNDS = ["#63676b", "#a8a59c", "#7d6248", "#2a2c2e"] as const;
/** The number of the light that is tried and not taught. */
const UNSEEN = 200;

/** How bad the marks of a set are: whole marks with a wrong name, as a share, and readings that a mark runs too long. */
export interface Marking {
  wrong: number;
  overrun: number;
}

/**
 * One set from an optics that is not the program's own: channels mix, the answer is not linear, the lamp falls off
 * with a wandering height, all drifts, shadows are coloured, surfaces shine now and then. Taught in one to five lights,
 * tried in one more. `train` has the marks as they were made, `test` the truth.
 */
export function wideSet(seed: number, marking: Marking): { train: Sample; test: Sample } {
  const dice = chance(seed, "wide");
  const about = (x: number, share: number) => x * (1 + share * (2 * dice.uniform() - 1));
  const many = 4 + Math.floor(dice.uniform() * 9);
  const grounds = 1 + Math.floor(dice.uniform() * 2);
  const drawn = shuffled(dice, GROUNDS).slice(0, grounds);
  // Every other pair of grounds is of one make, and hardly to be told apart.
  const floors = dice.uniform() < 0.5 ? drawn.map(() => drawn[0]) : drawn;
  const paints = [...shuffled(dice, PAINTS).slice(0, Math.max(2, many - grounds)), ...floors];
  const targets = paints.map(
    (paint, i): Target => ({
      id: `t-${i}` as Target["id"],
      code: "TT",
      name: `Target ${i}`,
      kind: i >= paints.length - grounds ? "background" : "tag",
      paint,
    }),
  );
  const lights = 1 + Math.floor(dice.uniform() * 5);
  const gloss = 0.03 * dice.uniform();
  const mix = [0, 1, 2].map((i) => [0, 1, 2].map((k) => (i === k ? 1 : 0.1 * dice.uniform())));
  const gamma = about(1, 0.12);
  const gain = [0, 1, 2].map(() => about(0.6, 0.08));
  const noise = 0.0003 + 0.0077 * dice.uniform();
  const drift = 0.04 * (2 * dice.uniform() - 1);
  const lightOf = () => {
    const warmth = 0.25 * (2 * dice.uniform() - 1);
    const level = 0.05 + 0.5 * dice.uniform();
    return [1 + warmth, about(1, 0.1), 1 - warmth].map((x) => x * level);
  };
  const raw = (paint: string, room: readonly number[], shade: readonly number[], at: number, shine: boolean) => {
    const reflectance = hexToRgb(paint).map(displayToLinear);
    const height = 1 / (1 + ((1.5 * dice.normal()) / 11) ** 2);
    const light = reflectance.map(
      (rho, c) => rho * (0.85 * height + room[c] * shade[c]) + (shine ? 0.15 + 0.25 * dice.uniform() : 0),
    );
    return mix.map((row, c) => {
      const x = row.reduce((sum, m, k) => sum + m * light[k], 0) * gain[c] * (1 + drift * at);
      const y = Math.max(0, x) ** gamma + noise * (1 + Math.sqrt(Math.max(0, x))) * dice.normal();
      return Math.max(0, Math.min(1023, Math.round(1023 * y)));
    });
  };
  const still = [1, 1, 1];
  const rows: { truth: number; light: number; visit: number; raw: number[] }[] = [];
  let visit = 0;
  const readMark = (t: number, light: number, room: readonly number[], clean: boolean) => {
    const n = 20 + Math.floor(180 * dice.uniform());
    const shade = [0, 1, 2].map(() => about(0.85, 0.15));
    const long = clean ? 0 : Math.floor(dice.uniform() * (marking.overrun + 1));
    const named = !clean && dice.uniform() < marking.wrong ? Math.floor(dice.uniform() * targets.length) : t;
    visit++;
    for (let i = 0; i < n; i++) {
      // What lies beside a tag is the ground.
      const paint = i >= n - long ? targets[targets.length - 1].paint : targets[t].paint;
      rows.push({ truth: named + 1, light, visit, raw: raw(paint, room, shade, i / n, dice.uniform() < gloss) });
    }
  };
  const white = (paint: string, room: readonly number[]) => {
    const sums = [0, 0, 0];
    for (let i = 0; i < 40; i++)
      raw(paint, room, still, 0, false).forEach((v, c) => {
        sums[c] += v / 40;
      });
    return sums;
  };
  const rooms = Array.from({ length: lights + 1 }, lightOf);
  const reference = { white: white("#f2f2f2", rooms[0]), dark: white("#000000", [0, 0, 0]) };
  rooms.forEach((room, l) => {
    const last = l === lights;
    targets.forEach((_, t) => {
      readMark(t, last ? UNSEEN : l + 1, room, last);
    });
  });
  const read = featureReader({
    reports: "rgb",
    scale: { r: [0, 1023], g: [0, 1023], b: [0, 1023] },
    order: "rgb",
    reference,
  } as Sensor);
  const all = drawnSample(
    { targets, lights: rooms.map((_, i) => ({ id: `l-${i}` as never, name: `Light ${i}` })) },
    rows.map(({ raw: values, ...row }) => ({ ...row, features: read(values) })),
  );
  return { train: partOf(all, (i) => all.light[i] !== UNSEEN), test: partOf(all, (i) => all.light[i] === UNSEEN) };
}

/** Linear discriminants on red, green and blue: classes with means of their own and one covariance (Fisher 1936). */
export function linearDiscriminants(train: Sample): Judge {
  const f = (["r", "g", "b"] as const).map((name) => train.column(name));
  const classes = train.targets.length;
  const means = Array.from({ length: classes + 1 }, () => [0, 0, 0]);
  const counts = new Array<number>(classes + 1).fill(0);
  for (let i = 0; i < train.count; i++) {
    counts[train.truth[i]]++;
    for (let c = 0; c < 3; c++) means[train.truth[i]][c] += f[c][i];
  }
  for (let t = 1; t <= classes; t++) for (let c = 0; c < 3; c++) means[t][c] /= Math.max(1, counts[t]);
  const cov = [0, 1, 2].map(() => [0, 0, 0]);
  for (let i = 0; i < train.count; i++)
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++)
        cov[a][b] += ((f[a][i] - means[train.truth[i]][a]) * (f[b][i] - means[train.truth[i]][b])) / train.count;
  for (let a = 0; a < 3; a++) cov[a][a] += 1e-6;
  const inverse = inverted(cov);
  return (sample, i) => {
    const x = (["r", "g", "b"] as const).map((name) => sample.column(name)[i]);
    let best = 0;
    let least = Number.POSITIVE_INFINITY;
    for (let t = 1; t <= classes; t++) {
      if (counts[t] === 0) continue;
      const d = x.map((v, c) => v - means[t][c]);
      const q = d.reduce((sum, v, a) => sum + v * inverse[a].reduce((s, m, b) => s + m * d[b], 0), 0);
      if (q < least) [least, best] = [q, t];
    }
    return best;
  };
}

function inverted(m: readonly (readonly number[])[]): number[][] {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ].map((row) => row.map((x) => x / det));
}

/** The classifiers that the suggestion is compared with. */
const COMPARED = {
  nearest: "nearest references",
  neighbours: "5 nearest neighbours",
  tree: "decision tree",
  discriminants: "linear discriminants",
};

/** A row for each that the suggestion is compared with; `line` tells of one by its key. */
export const comparedRows = (line: (name: string) => string): Row[] =>
  Object.entries(COMPARED).map(([name, text]) => ({
    what: `— ${text}, for comparison`,
    measured: line(name),
    budget: "",
  }));

const SETS = 60;

/** What the suggestion reaches on sets from another optics, beside general classifiers; `first` is the first seed. */
export function benchWide(first = 61_000): Row[] {
  return [
    { what: "marks right", marking: { wrong: 0, overrun: 10 }, within: 1.5 },
    { what: "5 % of marks wrong", marking: { wrong: 0.05, overrun: 10 }, within: 3 },
  ].flatMap(({ what, marking, within }): Row[] => {
    const shares: Record<string, number[]> = {};
    const grounds: Record<string, number[]> = {};
    const note = (name: string, [right, taken]: readonly [number, number]) => {
      shares[name] = [...(shares[name] ?? []), 100 * right];
      grounds[name] = [...(grounds[name] ?? []), 100 * taken];
    };
    for (let k = 0; k < SETS; k++) {
      const { train, test } = wideSet(first + k, marking);
      const all = test.truth.reduce((n, t) => n + (test.targets[t - 1].kind === "background" ? 1 : 0), 0);
      const trial = ({ right, readings, grounds: taken }: ReturnType<typeof tryRules>) =>
        [right / readings, taken / all] as const;
      const judged = (judge: Judge) => {
        const { right, grounds: taken } = score(test, judge);
        return [right, taken] as const;
      };
      const bands = trial(
        tryRules(
          test,
          suggest(train).rules.map((r) => r.rule),
        ),
      );
      const nearest = trial(tryNearest(test, train));
      note("bands", bands);
      note("nearest", nearest);
      note("better", bands[0] >= nearest[0] ? bands : nearest);
      note("neighbours", judged(nearestNeighbours(train)));
      note("tree", judged(decisionTree(train)));
      note("discriminants", judged(linearDiscriminants(train)));
    }
    const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];
    const right = (name: string) => median(shares[name]);
    const best = Math.max(right("neighbours"), right("tree"), right("discriminants"));
    const line = (name: string) =>
      `${right(name).toFixed(1)} % right, ${median(grounds[name]).toFixed(1)} % of grounds taken`;
    const title = `median of ${SETS} sets of another optics, in a light not seen, ${what}`;
    return [
      {
        what: `bands: ${title}`,
        measured: line("bands"),
        budget: `within ${within} of ${best.toFixed(1)} %; grounds ≤ 2 %`,
        met: right("bands") >= best - within && median(grounds.bands) <= 2,
      },
      {
        what: `the better of bands and nearest: ${title}`,
        measured: line("better"),
        budget: `within 1 of ${best.toFixed(1)} %`,
        met: right("better") >= best - 1,
      },
      ...comparedRows(line),
    ];
  });
}
