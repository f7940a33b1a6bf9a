import { circularMean } from "../colour";
import { FEATURE_FACTS, type Feature } from "../readings";
import { lightsIn, partOf, rolled, type Sample, unrolled } from "./sample";

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
/** Of features that do equally well, the one that a person reads most easily comes first. */
const PREFERENCE: readonly Feature[] = ["hue", "sat", "val", "reflected", "light", "chroma", "clear", "r", "g", "b"];

/** Where a target's own readings lie in one feature; for hue in degrees off `middle`. */
export interface Own {
  feature: Feature;
  low: number;
  high: number;
  reach: number;
  middle: number;
}

/** A sample with the columns of its features in the order of preference. */
export interface Grid {
  sample: Sample;
  features: readonly Feature[];
  columns: readonly Float64Array[];
  /** What was read in each light: each is once left out. */
  lights: readonly { number: number; truth: Uint8Array; columns: readonly Float64Array[] }[];
}

export function gridOf(sample: Sample): Grid {
  const features = PREFERENCE.filter((f) => sample.features.includes(f));
  const numbers = lightsIn(sample);
  const lights = (numbers.length < 2 ? [] : numbers).map((number) => {
    const part = partOf(sample, (i) => sample.light[i] === number);
    return { number, truth: part.truth, columns: features.map((f) => part.column(f)) };
  });
  return { sample, features, columns: features.map((f) => sample.column(f)), lights };
}

/**
 * The spread of a target's readings in each feature, without those in the light `except`; undefined where a feature
 * cannot be tested for it.
 */
export function spreads({ sample, features, columns }: Grid, truth: number, except: number): (Own | undefined)[] {
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
    const stable = count > 0.99 * n && (sat < 0 || mostlyAtLeast(valuesOf(columns[sat]), STABLE_SAT));
    if (!stable) return undefined;
    const line = new Float64Array(count);
    let filled = 0;
    for (const value of values) if (!Number.isNaN(value)) line[filled++] = unrolled(value, mean);
    const own = ownSpread(feature, line, mean, span);
    return own.high - own.low > 120 ? undefined : own;
  });
}

/** Whether at most one in twenty values lies below. */
function mostlyAtLeast(values: Float64Array, least: number): boolean {
  let below = 0;
  for (let i = 0; i < values.length; i++) if (values[i] < least) below++;
  return below <= Math.floor((values.length - 1) * 0.05);
}

function ownSpread(feature: Feature, values: Float64Array, middle: number, span: number): Own {
  const [low, high] = endsOf(values, STRAY);
  const least = feature === "hue" || feature === "sat" ? REACH_LEAST : REACH_LIGHT;
  return { feature, low, high, middle, reach: Math.max(least * span, REACH_SHARE * (high - low)) };
}

const CELLS = 512;
/** No light has this number. */
export const ALL_LIGHTS = 255;

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
export function withinBits(
  columns: readonly Float64Array[],
  owns: readonly (Own | undefined)[],
  widen: number,
): Uint16Array {
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

/** What distances of a feature are measured in: the target's own spread, so that a feature that moves with the light counts less. */
export const spreadOfOwn = ({ feature, low, high }: Own) => high - low + LEAST_SPREAD * FEATURE_FACTS[feature].span;

/** How far each reading lies outside a target's spread in the features of a set, over that spread; NaN counts as far. */
export function excessOf(
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
export function separation(
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
