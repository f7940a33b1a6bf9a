/** Where max − min stays below this share of full scale, a colour is grey and has no hue. */
export const GREY_BELOW = 1 / 1024;

/**
 * Hue in degrees [0, 360) by the hexcone model (Smith 1978, "Color gamut transform pairs").
 * `r`, `g`, `b` are fractions 0..1. NaN for a grey: it has no hue, and NaN passes no test.
 */
export function hueOf(r: number, g: number, b: number): number {
  const most = Math.max(r, g, b);
  return hueWithin(r, g, b, most, most - Math.min(r, g, b));
}

/** The same where the largest channel and its distance to the smallest are known. */
export function hueWithin(r: number, g: number, b: number, most: number, delta: number): number {
  if (!(delta >= GREY_BELOW)) return Number.NaN;
  const sixth = most === r ? (g - b) / delta : most === g ? (b - r) / delta + 2 : (r - g) / delta + 4;
  let hue = sixth * 60;
  if (hue < 0) hue += 360;
  // A hair below zero rounds to 360 itself, which is 0.
  return hue >= 360 ? 0 : hue;
}

/** Saturation 0..1 of the hexcone model; black has 0. */
export function satOf(r: number, g: number, b: number): number {
  const most = Math.max(r, g, b);
  return most === 0 ? 0 : (most - Math.min(r, g, b)) / most;
}

/** Value 0..1 of the hexcone model: the largest channel. */
export function valOf(r: number, g: number, b: number): number {
  return Math.max(r, g, b);
}

/** Hue, saturation and value of many colours at once: the same figures as one by one, to the last bit. */
export function hsvColumns(
  r: Float64Array,
  g: Float64Array,
  b: Float64Array,
): { hue: Float64Array; sat: Float64Array; val: Float64Array } {
  const { length } = r;
  const [hue, sat, val] = [new Float64Array(length), new Float64Array(length), new Float64Array(length)];
  for (let i = 0; i < length; i++) {
    const max = Math.max(r[i], g[i], b[i]);
    const delta = max - Math.min(r[i], g[i], b[i]);
    hue[i] = hueWithin(r[i], g[i], b[i], max, delta);
    sat[i] = max === 0 ? 0 : delta / max;
    val[i] = max;
  }
  return { hue, sat, val };
}

/** Red, green or blue (0..1) of a hue in degrees, saturation and value 0..1, by the offset 5, 3 or 1. */
export function channelOf(hue: number, sat: number, val: number, offset: number): number {
  const k = (offset + hue / 60) % 6;
  return val - val * sat * Math.max(0, Math.min(k, 4 - k, 1));
}

/** The inverse: `hue` in degrees, `sat` and `val` 0..1, to channels 0..1. */
export const hsvToRgb = (hue: number, sat: number, val: number): [number, number, number] => [
  channelOf(hue, sat, val, 5),
  channelOf(hue, sat, val, 3),
  channelOf(hue, sat, val, 1),
];
