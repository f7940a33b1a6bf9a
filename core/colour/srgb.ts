import { fifthRoot } from "../arithmetic";

/** Display value 0..1 to linear light 0..1 (IEC 61966-2-1). */
export function displayToLinear(x: number): number {
  if (x <= 0.04045) return x / 12.92;
  const u = (x + 0.055) / 1.055;
  const root = fifthRoot(u);
  return u * u * root * root; // u^2.4
}

/** Linear light 0..1 to display value 0..1 (IEC 61966-2-1). For showing colours, not for rules. */
export function linearToDisplay(x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  return x <= 0.0031308 ? x * 12.92 : 1.055 * x ** (1 / 2.4) - 0.055;
}
