import { hueDistance } from "../colour";
import { FEATURE_FACTS } from "../readings";
import type { Test } from "./ruleSetSchema";

/** Whether a test holds for its feature's value. NaN passes no test, with or without `not`. */
export function testHolds(test: Test, value: number): boolean {
  if (Number.isNaN(value)) return false;
  const { from, to } = test;
  const within =
    from !== undefined && to !== undefined && from > to
      ? value >= from || value <= to
      : (from === undefined || value >= from) && (to === undefined || value <= to);
  return within !== (test.not ?? false);
}

/**
 * The margin of a test, −1..1: distance to the nearer end, positive inside the band, over the feature's span; `not`
 * flips it; NaN gives −1. An open end is as far as the range goes, so for hue it lies at 0°.
 */
export function testMargin(test: Test, value: number): number {
  if (Number.isNaN(value)) return -1;
  const { feature, from, to, not = false } = test;
  if (from === undefined && to === undefined) return not ? -1 : 1;
  const inside = testHolds({ feature, from, to }, value);
  let distance: number;
  if (feature === "hue") {
    distance = Math.min(hueDistance(value, from ?? 0), hueDistance(value, to ?? 0));
  } else {
    const below = from === undefined ? Number.POSITIVE_INFINITY : Math.abs(value - from);
    const above = to === undefined ? Number.POSITIVE_INFINITY : Math.abs(value - to);
    distance = Math.min(below, above);
  }
  const share = Math.min(1, distance / FEATURE_FACTS[feature].span);
  // `|| 0` keeps −0 out of what is printed.
  return (inside !== not ? share : -share) || 0;
}
