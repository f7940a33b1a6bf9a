import { capital } from "../phrases";
import { FEATURE_FACTS, type Feature, figure, shownValue, valueShownAs } from "../readings";
import type { Test } from "../rules";
import { rolled, type Sample, unrolled } from "./sample";
import type { Grid, Own } from "./suggestGrid";

/** How many readings of each target pass all tests of a set. */
export function countPassed({ truth, targets }: Sample, passed: Uint8Array, set: number): Uint32Array {
  const counts = new Uint32Array(targets.length + 1);
  for (let i = 0; i < passed.length; i++) if ((passed[i] & set) === set) counts[truth[i]]++;
  return counts;
}

/** The band of one feature: each end half-way to the nearest reading that this feature has to keep out. */
export function bandFor(
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
