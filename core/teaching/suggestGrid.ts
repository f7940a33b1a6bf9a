import { circularMean, hsvColumns, hsvToRgb, lightChromaColumns } from "../colour";
import { FEATURE_FACTS, type Feature } from "../readings";
import { lightsIn, partOf, type Sample, unrolled } from "./sample";

/** Of a target's own readings this share may lie outside its spread at either end: strays of a mark's edges. */
const STRAY = 0.015;
/** A bound may lie beyond the target's own spread by this share of the spread, and at least by so much of the span. */
const REACH_SHARE = 0.5;
const REACH_LEAST = 0.1;
/** What moves with the brightness of the light has a longer reach. */
const REACH_BRIGHT = 0.24;
const BRIGHT: readonly Feature[] = ["val", "light", "chroma", "reflected", "clear", "r", "g", "b"];
/** Hue is tested only where nearly all of a target's readings have so much saturation; below, noise turns it about. */
const STABLE_SAT = 0.2;
/** A target's hues that lie wider apart than this have no middle. */
const WIDEST_HUE = 120;
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

/** Readings with their truth: a column for each feature of a grid. */
export interface Part {
  truth: Uint8Array;
  columns: readonly Float64Array[];
}

/** Readings that bands are made from, and those that they are then tried on, each part with the weight of its errors. */
export interface Trials {
  made: Part;
  tried: { part: Part; weight: number }[];
}

/** A sample with the columns of its features in the order of preference. */
export interface Grid extends Part {
  sample: Sample;
  features: readonly Feature[];
  /** The trials of a choice of features: on few of all readings, so that many choices can be tried. */
  trials: readonly Trials[];
}

/** Features are chosen by so many readings of each target in each light, and by so many of all together. */
const CHOSEN = 120;
const CHOSEN_IN_ALL = 3000;

export function gridOf(sample: Sample): Grid {
  const features = PREFERENCE.filter((f) => sample.features.includes(f));
  const columns = features.map((f) => sample.column(f));
  return { sample, features, truth: sample.truth, columns, trials: trialsOf(thinned(sample), features) };
}

/** Evenly picked readings of each target in each light. */
function thinned(sample: Sample): Sample {
  const group = (i: number) => sample.truth[i] * 256 + sample.light[i];
  const counts = new Map<number, number>();
  for (let i = 0; i < sample.count; i++) counts.set(group(i), (counts.get(group(i)) ?? 0) + 1);
  const most = Math.max(8, Math.min(CHOSEN, Math.floor(CHOSEN_IN_ALL / Math.max(1, counts.size))));
  const seen = new Map<number, number>();
  return partOf(sample, (i) => {
    const [g, n] = [group(i), seen.get(group(i)) ?? 0];
    seen.set(g, n + 1);
    const step = Math.max(1, (counts.get(g) as number) / most);
    return Math.floor(n / step) !== Math.floor((n - 1) / step);
  });
}

/** Light half as strong again, and a third weaker: a lamp, or a sensor at another height. */
const STRENGTHS = [0.65, 1.5];
/** A trial on readings that were worked out counts so much of one on readings that were taken. */
const LESS = 1;
/** Edges between two things, seen by parts. */
const SHARES = [0.4, 0.6, 0.8];

/**
 * The trials that a choice has to stand: all lights as they are; each light left out; all light stronger and weaker;
 * and the edges of things on grounds, where a reading is a mixture.
 */
function trialsOf(sample: Sample, features: readonly Feature[]): Trials[] {
  const part = (of: Sample): Part => ({ truth: of.truth, columns: features.map((f) => of.column(f)) });
  const all = part(sample);
  const lights = lightsIn(sample);
  const folds = (lights.length < 2 ? [] : lights).map(
    (light): Trials => ({
      made: part(partOf(sample, (i) => sample.light[i] !== light)),
      tried: [{ part: part(partOf(sample, (i) => sample.light[i] === light)), weight: 1 / lights.length }],
    }),
  );
  const others = [...STRENGTHS.map((by) => brighter(all, features, by)), edgesOf(sample, features)];
  const tried = [{ part: all, weight: 1 }, ...others.map((part) => ({ part, weight: LESS }))];
  return [{ made: all, tried }, ...folds];
}

/** All readings in so many times the light. Lightness and chroma go by its cube root (CIE 15), of values to the 2.4. */
function brighter({ truth, columns }: Part, features: readonly Feature[], by: number): Part {
  const root = by ** (2.4 / 3);
  return {
    truth,
    columns: columns.map((column, k) => {
      const feature = features[k];
      if (!BRIGHT.includes(feature)) return column;
      const { max } = FEATURE_FACTS[feature];
      if (feature === "light") return column.map((v) => Math.min(max, (v + 16) * root - 16));
      const scale = feature === "chroma" ? root : by;
      return column.map((v) => Math.min(max, v * scale));
    }),
  };
}

/** Mixtures of each target's mean with each ground's mean, light by light; their truth is the target. */
function edgesOf(sample: Sample, features: readonly Feature[]): Part {
  const truth: number[] = [];
  const rows: number[][] = [];
  const grounds = sample.targets.flatMap(({ kind }, t) => (kind === "background" ? [t] : []));
  const colours: readonly Feature[] = ["hue", "sat", "val"];
  if (colours.every((f) => features.includes(f)))
    for (const light of lightsIn(sample)) {
      const means = meansIn(sample, light);
      means.forEach((mean, t) => {
        if (mean === undefined || sample.targets[t].kind === "background") return;
        for (const ground of grounds.map((g) => means[g]).filter((m) => m !== undefined))
          for (const share of SHARES) {
            rows.push(mean.map((x, c) => share * x + (1 - share) * ground[c]));
            truth.push(t + 1);
          }
      });
    }
  const [r, g, b] = [0, 1, 2].map((c) => new Float64Array(rows.map((row) => row[c])));
  const known: Partial<Record<Feature, Float64Array>> = {
    r,
    g,
    b,
    ...hsvColumns(r, g, b),
    ...lightChromaColumns(r, g, b),
  };
  return {
    truth: Uint8Array.from(truth),
    columns: features.map((f) => known[f] ?? new Float64Array(rows.length).fill(Number.NaN)),
  };
}

/** The mean colour of each target in one light; undefined where none was read in it. */
function meansIn(sample: Sample, light: number): (number[] | undefined)[] {
  const [hue, sat, val] = [sample.column("hue"), sample.column("sat"), sample.column("val")];
  const sums = sample.targets.map(() => [0, 0, 0]);
  const counts = sample.targets.map(() => 0);
  for (let i = 0; i < sample.count; i++) {
    if (sample.light[i] !== light) continue;
    const t = sample.truth[i] - 1;
    const grey = Number.isNaN(hue[i]);
    hsvToRgb(grey ? 0 : hue[i], grey ? 0 : sat[i], val[i]).forEach((v, c) => {
      sums[t][c] += v;
    });
    counts[t]++;
  }
  return sums.map((sum, t) => (counts[t] === 0 ? undefined : sum.map((x) => x / counts[t])));
}

/** The spread of a target's readings in each feature; undefined where a feature cannot be tested for it. */
export function spreads(features: readonly Feature[], { truth, columns }: Part, target: number): (Own | undefined)[] {
  const indices = new Uint32Array(truth.length);
  let n = 0;
  for (let i = 0; i < truth.length; i++) if (truth[i] === target) indices[n++] = i;
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
    return own.high - own.low > WIDEST_HUE ? undefined : own;
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
  const least = BRIGHT.includes(feature) ? REACH_BRIGHT : REACH_LEAST;
  return { feature, low, high, middle, reach: Math.max(least * span, REACH_SHARE * (high - low)) };
}

const CELLS = 512;

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

/** What distances of a feature are measured in: the target's own spread, so that a feature that moves with the light counts less. */
export const spreadOfOwn = ({ feature, low, high }: Own) => high - low + LEAST_SPREAD * FEATURE_FACTS[feature].span;

/** Farther than any value can lie outside. */
export const FAR = 1000;

/** A feature that is tested: each reading's value, for hue in degrees off the middle, and how far it lies outside. */
export interface Chosen {
  own: Own;
  /** Its place among the features of the grid. */
  k: number;
  line: Float64Array;
  /** Over the target's own spread; NaN counts as far. */
  excess: Float32Array;
}

/** One feature of readings, seen from a target's own spread. */
export function chosenOf(own: Own, k: number, { columns }: Part): Chosen {
  const line = lineOf(own, columns[k]);
  const excess = new Float32Array(line.length);
  const { low, high } = own;
  const unit = spreadOfOwn(own);
  for (let i = 0; i < excess.length; i++) {
    const value = line[i];
    const out = value < low ? low - value : value > high ? value - high : 0;
    excess[i] = Number.isNaN(value) ? FAR : out / unit;
  }
  return { own, k, line, excess };
}

/** Values as they lie on a line: hues in degrees off the target's middle. */
export function lineOf({ feature, middle }: Own, column: Float64Array): Float64Array {
  return feature === "hue" ? column.map((hue) => unrolled(hue, middle)) : column;
}
