import { circularMean, hueAhead, wrapHue } from "../colour";
import type { Feature } from "../readings";

/** How the values of one feature spread. For hue all are directions, and the quantiles run clockwise from `low`. */
export interface Spread {
  count: number;
  mean: number;
  /** Standard deviation; for hue the circular one, in degrees. */
  deviation: number;
  min: number;
  max: number;
  /** The 5 % and 95 % quantiles. */
  low: number;
  high: number;
}

/** Mean, deviation and range of values; NaN (a grey's hue) is left out. Undefined where nothing is left. */
export function spreadOf(feature: Feature, values: Float64Array): Spread | undefined {
  const known = values.filter((v) => !Number.isNaN(v));
  if (known.length === 0) return undefined;
  if (feature !== "hue") return linearSpread(known);
  // Unrolled from the point opposite the mean, the hues lie on a line.
  const { mean, spread } = circularMean(known);
  const seam = wrapHue(mean + 180);
  const line = linearSpread(known.map((hue) => hueAhead(seam, hue)));
  const back = (v: number) => wrapHue(v + seam);
  return {
    count: line.count,
    mean,
    deviation: spread,
    min: back(line.min),
    max: back(line.max),
    low: back(line.low),
    high: back(line.high),
  };
}

function linearSpread(values: Float64Array): Spread {
  const sorted = values.slice().sort();
  const n = sorted.length;
  let sum = 0;
  for (const v of sorted) sum += v;
  const mean = sum / n;
  let squares = 0;
  for (const v of sorted) squares += (v - mean) ** 2;
  return {
    count: n,
    mean,
    deviation: n > 1 ? Math.sqrt(squares / (n - 1)) : 0,
    min: sorted[0],
    max: sorted[n - 1],
    low: quantile(sorted, 0.05),
    high: quantile(sorted, 0.95),
  };
}

/** The q-quantile of sorted values, interpolated between neighbours. */
export function quantile(sorted: ArrayLike<number>, q: number): number {
  const at = (sorted.length - 1) * q;
  const low = Math.floor(at);
  const high = Math.ceil(at);
  return sorted[low] + (sorted[high] - sorted[low]) * (at - low);
}

/** The values of one feature at the readings whose truth is `target` (from 1). */
export function valuesOfTarget(column: Float64Array, truth: Uint8Array, target: number): Float64Array<ArrayBuffer> {
  const found = new Float64Array(column.length);
  let n = 0;
  for (let i = 0; i < column.length; i++) if (truth[i] === target) found[n++] = column[i];
  return found.slice(0, n);
}
