import { cubeRoot } from "../arithmetic";
import { displayToLinear } from "./srgb";

/** The white that the CIE figures are relative to: the sums of the matrix rows, so that grey is neutral. */
const X_WHITE = 0.4124 + 0.3576 + 0.1805;
const Z_WHITE = 0.0193 + 0.1192 + 0.9505;
const NEAR_BLACK = 216 / 24389;
const KAPPA = 24389 / 27;

/** The cube root of CIE 15, straight near black. */
function compressed(x: number): number {
  return x > NEAR_BLACK ? cubeRoot(x) : (KAPPA * x + 16) / 116;
}

/** The linear light 0..1 of red, green and blue together. */
function luminance(lr: number, lg: number, lb: number): number {
  return 0.2126 * lr + 0.7152 * lg + 0.0722 * lb;
}

/** CIE L* (0..100) of display values 0..1 taken as sRGB (IEC 61966-2-1; CIE 15, D65). */
export function lightOf(r: number, g: number, b: number): number {
  return 116 * compressed(luminance(displayToLinear(r), displayToLinear(g), displayToLinear(b))) - 16;
}

/** Lightness and chroma of many colours at once: the same figures as one by one, to the last bit. */
export function lightChromaColumns(
  r: Float64Array,
  g: Float64Array,
  b: Float64Array,
): { light: Float64Array; chroma: Float64Array } {
  const [light, chroma] = [new Float64Array(r.length), new Float64Array(r.length)];
  for (let i = 0; i < r.length; i++) {
    const lr = displayToLinear(r[i]);
    const lg = displayToLinear(g[i]);
    const lb = displayToLinear(b[i]);
    const fy = compressed(luminance(lr, lg, lb));
    light[i] = 116 * fy - 16;
    chroma[i] = chromaWithin(lr, lg, lb, fy);
  }
  return { light, chroma };
}

/** CIE C*ab (0..134) of display values 0..1 taken as sRGB (IEC 61966-2-1; CIE 15, D65). */
export function chromaOf(r: number, g: number, b: number): number {
  const lr = displayToLinear(r);
  const lg = displayToLinear(g);
  const lb = displayToLinear(b);
  return chromaWithin(lr, lg, lb, compressed(luminance(lr, lg, lb)));
}

/** CIE C*ab of linear light, where the share of lightness is known. */
function chromaWithin(lr: number, lg: number, lb: number, fy: number): number {
  const fx = compressed((0.4124 * lr + 0.3576 * lg + 0.1805 * lb) / X_WHITE);
  const fz = compressed((0.0193 * lr + 0.1192 * lg + 0.9505 * lb) / Z_WHITE);
  const a = 500 * (fx - fy);
  const bb = 200 * (fy - fz);
  return Math.sqrt(a * a + bb * bb);
}
