import { circularMean } from "../colour";
import { freeId, type RuleId, type TargetId } from "../project/ids";
import type { Rule, Target, Test } from "../project/schema";
import { FEATURE_FACTS, type Feature, figure, shownValue, valueShownAs } from "../readings";
import { testHolds } from "../rules";
import { lightsIn, partOf, rolled, type Sample, unrolled } from "./sample";

/** Why a band is where it is. */
export interface BandReason {
  feature: Feature;
  sentence: string;
}

/** One rule that is suggested, with its reasons. */
export interface SuggestedRule {
  rule: Rule;
  target: Target;
  /** What it took to keep the target from everything else, in the student's figures. */
  sentence: string;
  bands: BandReason[];
  /** Readings of the target that the rule takes, and how many there are. */
  found: number;
  of: number;
  /** Readings of other things that it takes as well. */
  taken: number;
  /** How far apart the target and the nearest other reading are, over the features' spans. */
  margin: number;
}

/** Two things that no bands can keep apart. */
export interface Inseparable {
  target: TargetId;
  other: TargetId;
  /** Readings of `other` that lie where those of `target` do. */
  taken: number;
  of: number;
}

export interface Suggestion {
  rules: SuggestedRule[];
  inseparable: Inseparable[];
  /** Targets of which nothing is marked, so that nothing can be suggested. */
  unmarked: TargetId[];
}

/** At most so many features a rule. */
const MOST_FEATURES = 3;
/** Of a target's own readings this share may lie outside its spread at either end: strays of a mark's edges. */
const STRAY = 0.004;
/** A bound may lie beyond the target's own spread by this share of the spread, and at least by so much of the span. */
const REACH_SHARE = 0.5;
const REACH_LEAST = 0.02;
/** What moves with the brightness of the light has a longer reach. */
const REACH_LIGHT = 0.12;
/** Hue is tested only where nearly all of a target's readings have so much saturation; below, noise turns it about. */
const STABLE_SAT = 0.2;
/** Distances are taken over a target's own spread, which is at least this share of the feature's span. */
const LEAST_SPREAD = 0.05;
const SINGLE: readonly Feature[] = ["r", "g", "b", "clear"];
/** Of features that do equally well, the one that a person reads most easily comes first. */
const PREFERENCE: readonly Feature[] = ["hue", "sat", "val", "reflected", "light", "chroma", "clear", "r", "g", "b"];

/** Where a target's own readings lie in one feature; for hue in degrees off `middle`. */
interface Own {
  feature: Feature;
  low: number;
  high: number;
  reach: number;
  middle: number;
}

/** A sample with the columns of its features in the order of preference. */
interface Grid {
  sample: Sample;
  features: readonly Feature[];
  columns: readonly Float64Array[];
  /** What was read in each light: each is once left out. */
  lights: readonly { number: number; truth: Uint8Array; columns: readonly Float64Array[] }[];
}

function gridOf(sample: Sample): Grid {
  const features = PREFERENCE.filter((f) => sample.features.includes(f));
  const numbers = lightsIn(sample);
  const lights = (numbers.length < 2 ? [] : numbers).map((number) => {
    const part = partOf(sample, (i) => sample.light[i] === number);
    return { number, truth: part.truth, columns: features.map((f) => part.column(f)) };
  });
  return { sample, features, columns: features.map((f) => sample.column(f)), lights };
}

/**
 * Suggests bands for every target that is not a background: the fewest features that keep it from everything else in
 * the light of what is marked, also in a light that was left out; bounds half-way to the nearest other reading, but
 * not farther beyond the target's own spread than its reach.
 */
export function suggest(sample: Sample): Suggestion {
  const grid = gridOf(sample);
  const marked = countPassed(sample, new Uint8Array(sample.count), 0);
  const rules: SuggestedRule[] = [];
  const inseparable: Inseparable[] = [];
  const unmarked: TargetId[] = [];
  const ids: string[] = [];
  sample.targets.forEach((target, i) => {
    if (target.kind === "background") return;
    if (marked[i + 1] === 0) {
      unmarked.push(target.id);
      return;
    }
    const made = suggestFor(grid, i + 1, marked, freeId<RuleId>(target.id, ids));
    if (made === undefined) return;
    ids.push(made.rule.rule.id);
    rules.push(made.rule);
    inseparable.push(...made.inseparable);
  });
  return { rules, inseparable, unmarked };
}

/** How many readings of each target pass all tests of a set. */
function countPassed({ truth, targets }: Sample, passed: Uint8Array, set: number): Uint32Array {
  const counts = new Uint32Array(targets.length + 1);
  for (let i = 0; i < passed.length; i++) if ((passed[i] & set) === set) counts[truth[i]]++;
  return counts;
}

/**
 * The spread of a target's readings in each feature, without those in the light `except`; undefined where a feature
 * cannot be tested for it.
 */
function spreads({ sample, features, columns }: Grid, truth: number, except: number): (Own | undefined)[] {
  const indices = new Uint32Array(sample.count);
  let n = 0;
  for (let i = 0; i < sample.count; i++) if (sample.truth[i] === truth && sample.light[i] !== except) indices[n++] = i;
  if (n === 0) return features.map(() => undefined);
  const valuesOf = (column: Float64Array) => {
    const values = new Float64Array(n);
    for (let k = 0; k < n; k++) values[k] = column[indices[k]];
    return values;
  };
  return features.map((feature, k): Own | undefined => {
    const { span } = FEATURE_FACTS[feature];
    const values = valuesOf(columns[k]);
    if (feature !== "hue") return ownSpread(feature, values, 0, span);
    const { mean, count } = circularMean(values);
    const sat = features.indexOf("sat");
    const stable = count > 0.99 * n && (sat < 0 || endsOf(valuesOf(columns[sat]), 0.05)[0] >= STABLE_SAT);
    if (!stable) return undefined;
    const line = new Float64Array(count);
    let filled = 0;
    for (const value of values) if (!Number.isNaN(value)) line[filled++] = unrolled(value, mean);
    const own = ownSpread(feature, line, mean, span);
    return own.high - own.low > 120 ? undefined : own;
  });
}

function ownSpread(feature: Feature, values: Float64Array, middle: number, span: number): Own {
  const [low, high] = endsOf(values, STRAY);
  const least = feature === "hue" || feature === "sat" ? REACH_LEAST : REACH_LIGHT;
  return { feature, low, high, middle, reach: Math.max(least * span, REACH_SHARE * (high - low)) };
}

const CELLS = 512;
/** No light has this number. */
const ALL_LIGHTS = 255;

/** The values below and above which a share of all lies. Counted into cells first: sorting everything takes longer. */
function endsOf(values: Float64Array, share: number): [low: number, high: number] {
  const { length } = values;
  let [min, max] = [Infinity, -Infinity];
  for (let i = 0; i < length; i++) {
    if (values[i] < min) min = values[i];
    if (values[i] > max) max = values[i];
  }
  const rank = Math.floor((length - 1) * share);
  if (rank === 0 || min === max) return [min, max];
  const perUnit = CELLS / (max - min);
  const cells = new Uint16Array(length);
  const counts = new Uint32Array(CELLS);
  for (let i = 0; i < length; i++) {
    const cell = ((values[i] - min) * perUnit) | 0;
    cells[i] = cell < CELLS ? cell : CELLS - 1;
    counts[cells[i]]++;
  }
  const valueAt = (wanted: number) => {
    let below = 0;
    let cell = 0;
    while (below + counts[cell] <= wanted) below += counts[cell++];
    const within = new Float64Array(counts[cell]);
    let filled = 0;
    for (let i = 0; i < length; i++) if (cells[i] === cell) within[filled++] = values[i];
    return within.sort()[wanted - below];
  };
  return [valueAt(rank), valueAt(length - 1 - rank)];
}

/** Of each of these readings, in which features it lies within the spread widened by `widen` times the reach: a bit each. */
function withinBits(columns: readonly Float64Array[], owns: readonly (Own | undefined)[], widen: number): Uint16Array {
  const bits = new Uint16Array(columns[0].length);
  owns.forEach((own, k) => {
    if (own === undefined) return;
    const column = columns[k];
    const bit = 1 << k;
    let [low, high] = [own.low - widen * own.reach, own.high + widen * own.reach];
    if (own.feature === "hue") {
      if (high - low >= 360) [low, high] = [0, 360];
      else [low, high] = [rolled(low, own.middle), rolled(high, own.middle)];
      if (low > high) {
        for (let i = 0; i < bits.length; i++) if (column[i] >= low || column[i] <= high) bits[i] |= bit;
        return;
      }
    }
    for (let i = 0; i < bits.length; i++) if (column[i] >= low && column[i] <= high) bits[i] |= bit;
  });
  return bits;
}

function sizeOf(set: number): number {
  let size = 0;
  for (let left = set; left !== 0; left &= left - 1) size++;
  return size;
}

/** Every set of at most three of the features that can be tested, as bits, the smaller sets first. */
function subsets(owns: readonly (Own | undefined)[]): number[] {
  const usable = owns.reduce((bits, own, k) => (own ? bits | (1 << k) : bits), 0);
  const all = Array.from({ length: 2 ** owns.length - 1 }, (_, i) => i + 1);
  return all
    .filter((set) => (set & usable) === set && sizeOf(set) <= MOST_FEATURES)
    .sort((a, b) => sizeOf(a) - sizeOf(b) || a - b);
}

/** How many counted readings lie within all features of a set. */
function withinSet(counts: Uint32Array, set: number): number {
  let sum = 0;
  for (let b = 0; b < counts.length; b++) if ((b & set) === set) sum += counts[b];
  return sum;
}

/** Of sets that do equally well, so many are compared by how far they keep the others out. */
const MOST_COMPARED = 12;
/** A set whose nearest other reading lies a whole spread away, or nearly as far as with any set, is good enough. */
const ENOUGH = 1;
const NEARLY = 0.9;
/** A set costs its wrong readings as a share of the target's own, and so much for each spread that the others are nearer than this. */
const NARROW = 0.25;
const NARROW_COST = 4;
/** Costs that differ by less are the same. */
const SAME_COST = 0.01;

function suggestFor(grid: Grid, truth: number, marked: Uint32Array, id: RuleId) {
  const { sample, features } = grid;
  const target = sample.targets[truth - 1];
  const owns = spreads(grid, truth, ALL_LIGHTS);
  const candidates = subsets(owns);
  if (candidates.length === 0) return undefined;
  const bits = withinBits(grid.columns, owns, 0);
  const counts = new Uint32Array(2 ** features.length);
  for (let i = 0; i < bits.length; i++) if (sample.truth[i] !== truth) counts[bits[i]]++;
  const left = leftOut(grid, truth);
  const wrong = (set: number) => withinSet(counts, set) + left(set);
  // Single channels move with every change of light, so they serve only where nothing else keeps all apart.
  const single = features.reduce((bits, f, k) => (SINGLE.includes(f) ? bits | (1 << k) : bits), 0);
  const steady = candidates.filter((set) => (set & single) === 0);
  const tried = steady.some((set) => withinSet(counts, set) === 0) ? steady : candidates;
  const cheapest = tried
    .map((set) => ({ set, size: sizeOf(set), wrong: wrong(set) }))
    .sort((a, b) => a.wrong - b.wrong || a.size - b.size || a.set - b.set)
    .slice(0, MOST_COMPARED);
  const excess = excessOf(
    grid,
    owns,
    cheapest.reduce((bits, c) => bits | c.set, 0),
  );
  const ones = owns.map(() => 1);
  const compared = cheapest.map((c) => {
    const apart = separation(sample, truth, excess, bits, c.set, ones);
    const cost = c.wrong / marked[truth] + NARROW_COST * Math.max(0, NARROW - apart);
    return { ...c, apart, cost };
  });
  // The fewest features that cost hardly more, and keep the others nearly as far out, as any set does.
  const least = Math.min(...compared.map((c) => c.cost));
  const equals = compared.filter((c) => c.cost <= least + SAME_COST);
  const enough = Math.min(NEARLY * Math.max(...equals.map((c) => c.apart)), ENOUGH);
  const best = equals
    .filter((c) => c.apart >= enough)
    .reduce((x, y) => (y.size < x.size || (y.size === x.size && y.apart > x.apart) ? y : x));
  const chosen = owns.flatMap((own, k) => (own && best.set & (1 << k) ? [{ own, k }] : []));
  const bands = chosen.map((c) => bandFor(grid, truth, c, chosen, excess));
  const tests = bands.map((b) => b.test);
  // What each test lets through, a bit a test; a reading is taken where all bits stand.
  const passed = new Uint8Array(sample.count);
  tests.forEach((test, k) => {
    const column = sample.column(test.feature);
    for (let i = 0; i < passed.length; i++) if (testHolds(test, column[i])) passed[i] |= 1 << k;
  });
  const all = 2 ** tests.length - 1;
  const takenBy = countPassed(sample, passed, all);
  const found = takenBy[truth];
  takenBy[truth] = 0;
  const taken = takenBy.reduce((a, b) => a + b, 0);
  const toSpan = owns.map((own) => (own ? spreadOfOwn(own) / FEATURE_FACTS[own.feature].span : 0));
  const margin = Math.min(1, separation(sample, truth, excess, bits, best.set, toSpan));
  return {
    rule: {
      rule: { id, target: target.id, on: true, any: [{ all: tests }] },
      target,
      sentence: sentenceFor(sample, truth, tests, passed, marked, margin, taken),
      bands: bands.map(({ test, sentence }) => ({ feature: test.feature, sentence })),
      found,
      of: marked[truth],
      taken,
      margin,
    },
    inseparable: [...takenBy].flatMap((n, t): Inseparable[] =>
      n === 0 ? [] : [{ target: target.id, other: sample.targets[t - 1].id, taken: n, of: marked[t] }],
    ),
  };
}

/**
 * How many readings a set of features would judge wrongly in a light that it was not made from: for each light, the
 * spreads are taken from the others. With one light alone nothing can be said, and all sets do equally well.
 */
function leftOut(grid: Grid, truth: number): (set: number) => number {
  const { lights, features } = grid;
  if (lights.length < 2) return () => 0;
  const folds = lights.flatMap((light) => {
    const owns = spreads(grid, truth, light.number);
    if (owns.every((own) => own === undefined)) return [];
    const bits = withinBits(light.columns, owns, 1);
    const [missed, taken] = [new Uint32Array(2 ** features.length), new Uint32Array(2 ** features.length)];
    for (let i = 0; i < bits.length; i++) (light.truth[i] === truth ? missed : taken)[bits[i]]++;
    const own = missed.reduce((a, b) => a + b, 0);
    return [{ missed, taken, own }];
  });
  return (set) =>
    folds.reduce((sum, { missed, taken, own }) => sum + withinSet(taken, set) + own - withinSet(missed, set), 0);
}

/** What distances of a feature are measured in: the target's own spread, so that a feature that moves with the light counts less. */
const spreadOfOwn = ({ feature, low, high }: Own) => high - low + LEAST_SPREAD * FEATURE_FACTS[feature].span;

/** How far each reading lies outside a target's spread in the features of a set, over that spread; NaN counts as far. */
function excessOf(
  { sample, columns }: Grid,
  owns: readonly (Own | undefined)[],
  set: number,
): (Float32Array | undefined)[] {
  return owns.map((own, k) => {
    if (own === undefined || (set & (1 << k)) === 0) return undefined;
    const excess = new Float32Array(sample.count);
    const column = columns[k];
    const { low, high, middle, feature } = own;
    const unit = spreadOfOwn(own);
    const hue = feature === "hue";
    for (let i = 0; i < excess.length; i++) {
      const value = hue ? unrolled(column[i], middle) : column[i];
      const out = value < low ? low - value : value > high ? value - high : 0;
      excess[i] = Number.isNaN(value) ? FAR : out / unit;
    }
    return excess;
  });
}

/** Farther than any value can lie outside. */
const FAR = 1000;

/**
 * The least, over all other readings that can be kept out, of how far out the best feature of a set has them; each
 * feature's distance times its `scale`.
 */
function separation(
  { truth: truths }: Sample,
  truth: number,
  excess: readonly (Float32Array | undefined)[],
  bits: Uint16Array,
  set: number,
  scale: readonly number[],
): number {
  const used = excess.flatMap((out, k) => (out && set & (1 << k) ? [{ out, by: scale[k] }] : []));
  // Always three, so that the loop has no choices to make; the first one again changes nothing.
  const [one, two = one, three = one] = used;
  const [a, b, c] = [one.out, two.out, three.out];
  let least = FAR;
  for (let i = 0; i < bits.length; i++) {
    if (truths[i] === truth || (bits[i] & set) === set) continue;
    let most = a[i] * one.by;
    const second = b[i] * two.by;
    const third = c[i] * three.by;
    if (second > most) most = second;
    if (third > most) most = third;
    if (most < least) least = most;
  }
  return least;
}

/** The band of one feature: each end half-way to the nearest reading that this feature has to keep out. */
function bandFor(
  { sample, columns }: Grid,
  truth: number,
  { own, k }: { own: Own; k: number },
  chosen: readonly { own: Own; k: number }[],
  excess: readonly (Float32Array | undefined)[],
): { test: Test; sentence: string } {
  const { feature, low, high, reach, middle } = own;
  const column = columns[k];
  const mine = excess[k] as Float32Array;
  const [one, two] = chosen.filter((c) => c.k !== k).map((c) => excess[c.k]);
  let below = { value: Number.NEGATIVE_INFINITY, truth: 0 };
  let above = { value: Number.POSITIVE_INFINITY, truth: 0 };
  for (let i = 0; i < mine.length; i++) {
    // Left to another feature where that one has it farther out.
    const out = mine[i];
    if (
      out === 0 ||
      sample.truth[i] === truth ||
      (one !== undefined && one[i] > out) ||
      (two !== undefined && two[i] > out)
    )
      continue;
    const value = feature === "hue" ? unrolled(column[i], middle) : column[i];
    if (value < low && value > below.value) below = { value, truth: sample.truth[i] };
    if (value > high && value < above.value) above = { value, truth: sample.truth[i] };
  }
  const max = feature === "hue" ? 360 : FEATURE_FACTS[feature].max;
  const from = roundBetween(feature, Math.max((low + below.value) / 2, low - reach), below.value, low, middle);
  const to = roundBetween(feature, Math.min((high + above.value) / 2, high + reach), high, above.value, middle);
  const test: Test = { feature };
  if (feature === "hue") Object.assign(test, { from, to });
  else {
    if (from > 0) test.from = from;
    if (to < max) test.to = to;
  }
  const name = (t: number) => sample.targets[t - 1].name;
  const back = (v: number) => figureOf(feature, feature === "hue" ? rolled(v, middle) : v);
  const near = [
    ...(below.truth > 0 && low - below.value < 2 * reach
      ? [`${name(below.truth)} comes up to ${back(below.value)}`]
      : []),
    ...(above.truth > 0 && above.value - high < 2 * reach
      ? [`${name(above.truth)} begins at ${back(above.value)}`]
      : []),
  ];
  return {
    test,
    sentence: `Its own readings have ${FEATURE_FACTS[feature].word} from ${back(low)} to ${back(high)}${near.length > 0 ? `; ${near.join(", ")}` : ""}.`,
  };
}

/** A value rounded for people: `354°`, `66 %`. */
function figureOf(feature: Feature, value: number): string {
  return figure(feature, valueShownAs(feature, Math.round(shownValue(feature, value) * 10) / 10));
}

/** `value` as a figure with few digits that still lies between two others (`between` < round ≤ the own edge). */
function roundBetween(feature: Feature, value: number, low: number, high: number, middle: number): number {
  const back = (v: number) => (feature === "hue" ? rolled(v, middle) : Math.max(0, v));
  for (const digits of [0, 1, 2]) {
    const shown = Number(shownValue(feature, back(value)).toFixed(digits));
    const round = valueShownAs(feature, feature === "hue" ? shown % 360 : shown);
    const line = feature === "hue" ? unrolled(round, middle) : round;
    if (line > low && line < high && Math.abs(line - value) < 0.02 * FEATURE_FACTS[feature].span) return round;
  }
  return back(value);
}

/** What the tests keep out one after another, in the order in which they help most. */
function sentenceFor(
  sample: Sample,
  truth: number,
  tests: readonly Test[],
  passed: Uint8Array,
  total: Uint32Array,
  margin: number,
  taken: number,
): string {
  const target = sample.targets[truth - 1];
  const parts: string[] = [];
  let asked = 0;
  while (parts.length < tests.length) {
    const [next] = tests
      .flatMap((test, k) => {
        const set = asked | (1 << k);
        if (set === asked) return [];
        const counts = countPassed(sample, passed, set);
        counts[truth] = 0;
        return [{ test, set, counts, left: counts.reduce((a, b) => a + b, 0) }];
      })
      .sort((a, b) => a.left - b.left);
    asked = next.set;
    const worst = next.counts.indexOf(Math.max(...next.counts));
    const rest = `${next.counts[worst]} of ${total[worst]} ${sample.targets[worst - 1]?.name} readings`;
    const { word } = FEATURE_FACTS[next.test.feature];
    if (parts.length === 0)
      parts.push(
        next.left === 0
          ? `${testText(next.test)} alone keeps ${target.name} from everything else`
          : `${word} alone takes ${rest} for ${target.name}`,
      );
    else parts.push(`with ${testText(next.test)} ${next.left === 0 ? "none is left" : `${rest} are left`}`);
    if (next.left === 0) break;
  }
  const ending = taken > 0 ? `${taken} readings of other things cannot be kept out` : `margin ${margin.toFixed(2)}`;
  const text = `${parts.join("; ")}, ${ending}.`;
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function testText({ feature, from, to }: Test): string {
  const { word } = FEATURE_FACTS[feature];
  if (from !== undefined && to !== undefined) return `${word} from ${figure(feature, from)} to ${figure(feature, to)}`;
  return from !== undefined
    ? `${word} at least ${figure(feature, from)}`
    : `${word} at most ${figure(feature, to ?? 0)}`;
}
