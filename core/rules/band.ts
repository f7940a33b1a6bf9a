import { hueDistance } from "../colour";
import { FEATURE_FACTS } from "../readings";
import type { Test } from "./ruleSetSchema";

/** Tells whether a value lies from `low` to `high`; a band that starts above its end goes through 0. NaN lies in none. */
function withinBand(x: number, low: number, high: number): boolean {
  return low <= high ? x >= low && x <= high : x >= low || x <= high;
}

/** Whether a test holds for its feature's value. NaN passes no test, with or without `not`. */
export function testHolds({ from, to, not = false }: Test, value: number): boolean {
  return !Number.isNaN(value) && withinBand(value, from ?? -Infinity, to ?? Infinity) !== not;
}

/** Gives how far inside a band a value lies, −1..1: the distance to the nearer end as a share of `span`, below 0 outside; `turned` flips it. */
function bandMargin(x: number, low: number, high: number, span: number, turned: boolean): number {
  if (Number.isNaN(x)) return -1;
  const share = Math.min(1, Math.min(Math.abs(x - low), Math.abs(x - high)) / span);
  return withinBand(x, low, high) !== turned ? share : -share;
}

/** The same for a hue, round the circle; `start` and `end` are where the band's ends lie on it. */
function hueMargin(x: number, low: number, high: number, start: number, end: number, turned: boolean): number {
  if (Number.isNaN(x)) return -1;
  const share = Math.min(1, Math.min(hueDistance(x, start), hueDistance(x, end)) / 180);
  return withinBand(x, low, high) !== turned ? share : -share;
}

/**
 * The margin of a test, −1..1: distance to the nearer end, positive inside the band, over the feature's span; `not`
 * flips it; NaN gives −1. An open end is as far as the range goes, so for hue it lies at 0°.
 */
export function testMargin({ feature, from, to, not = false }: Test, value: number): number {
  if (Number.isNaN(value)) return -1;
  if (from === undefined && to === undefined) return not ? -1 : 1;
  const [low, high] = [from ?? -Infinity, to ?? Infinity];
  const margin =
    feature === "hue"
      ? hueMargin(value, low, high, from ?? 0, to ?? 0, not)
      : bandMargin(value, low, high, FEATURE_FACTS[feature].span, not);
  // `|| 0` keeps −0 out of what is printed.
  return margin || 0;
}
