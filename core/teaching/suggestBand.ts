import { capital } from "../phrases";
import { FEATURE_FACTS, type Feature, figure, shownValue, valueShownAs } from "../readings";
import type { Test } from "../rules";
import { rolled, type Sample, unrolled } from "./sample";
import { type Chosen, FAR, spreadOfOwn } from "./suggestGrid";

/** How many readings of each target pass all tests of a set. */
export function countPassed({ truth, targets }: Sample, passed: Uint8Array, set: number): Uint32Array {
  const counts = new Uint32Array(targets.length + 1);
  for (let i = 0; i < passed.length; i++) if ((passed[i] & set) === set) counts[truth[i]]++;
  return counts;
}

/** The ends of one feature's band, for hue in degrees off its middle; and the readings next beyond, if any. */
export interface Ends {
  from: number;
  to: number;
  below: Neighbour;
  above: Neighbour;
}

interface Neighbour {
  value: number;
  truth: number;
}

/** Saturation beside a hue is tested down to this share of the target's least. */
const GREYER = 0.75;

/**
 * The ends of bands: half-way to the nearest reading that a feature has to keep out, open where there is none. What
 * several features keep out is left to the one that has it farthest out; `apart` is the least of these distances,
 * in spreads of the target, and `margin` in spans of the features.
 */
export function endsFor(
  truths: Uint8Array,
  truth: number,
  chosen: readonly Chosen[],
): { ends: Ends[]; apart: number; margin: number } {
  const most = new Float32Array(truths.length);
  for (const { excess } of chosen) for (let i = 0; i < most.length; i++) if (excess[i] > most[i]) most[i] = excess[i];
  // Zero stands for what is the target's own or cannot be kept out.
  let apart = FAR;
  for (let i = 0; i < most.length; i++) {
    if (truths[i] === truth) most[i] = 0;
    else if (most[i] > 0 && most[i] < apart) apart = most[i];
  }
  const inSpans = chosen.map(({ own }) => (apart * spreadOfOwn(own)) / FEATURE_FACTS[own.feature].span);
  const ends = chosen.map((c) => endsOfOne(c, truths, most));
  // A reading that is greyer than the target has a hue by chance, wherever that was seen.
  if (chosen.some(({ own }) => own.feature === "hue"))
    chosen.forEach(({ own }, n) => {
      if (own.feature === "sat") ends[n].from = Math.max(ends[n].from, own.low * GREYER);
    });
  return { ends, apart, margin: Math.min(1, ...inSpans) };
}

/** The same; where nothing has to be kept out at all, the target's own spread with its reach. */
export function endsWithin(...of: Parameters<typeof endsFor>): ReturnType<typeof endsFor> {
  const made = endsFor(...of);
  if (made.ends.some(({ from, to }) => Number.isFinite(from) || Number.isFinite(to))) return made;
  const [, , chosen] = of;
  const ends = made.ends.map((end, n): Ends => {
    const { low, high, reach } = chosen[n].own;
    return { ...end, from: low - reach, to: high + reach };
  });
  return { ...made, ends };
}

function endsOfOne({ own, line, excess }: Chosen, truths: Uint8Array, most: Float32Array): Ends {
  const { feature, low, high, reach } = own;
  let [below, above] = [-1, -1];
  let [under, over] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let i = 0; i < most.length; i++) {
    if (most[i] === 0 || excess[i] < most[i]) continue;
    const value = line[i];
    if (value < low && value > under) {
      under = value;
      below = i;
    } else if (value > high && value < over) {
      over = value;
      above = i;
    }
  }
  // The circle has no end that could be left open.
  const circle = feature === "hue";
  return {
    from: below >= 0 || circle ? Math.max((low + under) / 2, low - reach) : under,
    to: above >= 0 || circle ? Math.min((high + over) / 2, high + reach) : over,
    below: { value: under, truth: below < 0 ? 0 : truths[below] },
    above: { value: over, truth: above < 0 ? 0 : truths[above] },
  };
}

/** One band in figures with few digits, and why it ends there. */
export function bandFor(sample: Sample, { own }: Chosen, ends: Ends): { test: Test; sentence: string } {
  const { feature, low, high, reach, middle } = own;
  const { below, above } = ends;
  const max = feature === "hue" ? 360 : FEATURE_FACTS[feature].max;
  const from = roundBetween(feature, ends.from, below.value, low, middle);
  const to = roundBetween(feature, ends.to, high, above.value, middle);
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
  if (!Number.isFinite(value)) return value;
  const back = (v: number) => (feature === "hue" ? rolled(v, middle) : Math.max(0, v));
  for (const digits of [0, 1, 2, 3]) {
    const shown = Number(shownValue(feature, back(value)).toFixed(digits));
    const round = valueShownAs(feature, feature === "hue" ? shown % 360 : shown);
    const line = feature === "hue" ? unrolled(round, middle) : round;
    const fits = line > low && line < high && Math.abs(line - value) < 0.02 * FEATURE_FACTS[feature].span;
    if (fits || digits === 3) return round;
  }
  return back(value);
}

/** What the tests keep out one after another, in the order in which they help most. */
export function sentenceFor(
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
  if (parts.length < tests.length) {
    const others = tests.filter((_, k) => (asked & (1 << k)) === 0).map((test) => FEATURE_FACTS[test.feature].word);
    parts.push(`${others.join(" and ")} keep${others.length === 1 ? "s" : ""} it so in other light`);
  }
  const ending = taken > 0 ? `${taken} readings of other things cannot be kept out` : `margin ${margin.toFixed(2)}`;
  return capital(`${parts.join("; ")}, ${ending}.`);
}

function testText({ feature, from, to }: Test): string {
  const { word } = FEATURE_FACTS[feature];
  if (from !== undefined && to !== undefined) return `${word} from ${figure(feature, from)} to ${figure(feature, to)}`;
  return from !== undefined
    ? `${word} at least ${figure(feature, from)}`
    : `${word} at most ${figure(feature, to ?? 0)}`;
}
