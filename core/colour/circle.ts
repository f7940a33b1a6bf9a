/** The shorter way round between two hues in degrees: 0..180. */
export function hueDistance(a: number, b: number): number {
  const d = Math.abs(a - b) % 360;
  return d > 180 ? 360 - d : d;
}

/** Any angle in degrees brought into [0, 360). */
export function wrapHue(degrees: number): number {
  const wrapped = ((degrees % 360) + 360) % 360;
  return wrapped >= 360 ? 0 : wrapped;
}

/** How far one must turn forwards from `from` to reach `to`, in degrees [0, 360). */
export function hueAhead(from: number, to: number): number {
  return wrapHue(to - from);
}

/**
 * Mean direction of hues in degrees, and their spread: the circular standard deviation
 * √(−2 ln R) in degrees (Mardia and Jupp 2000, section 2.3). NaN hues are left out; with none left, both are NaN.
 */
export function circularMean(hues: ArrayLike<number>): { mean: number; spread: number; count: number } {
  let x = 0;
  let y = 0;
  let count = 0;
  for (let i = 0; i < hues.length; i++) {
    const hue = hues[i];
    if (Number.isNaN(hue)) continue;
    const angle = (hue * Math.PI) / 180;
    x += Math.cos(angle);
    y += Math.sin(angle);
    count++;
  }
  if (count === 0) return { mean: Number.NaN, spread: Number.NaN, count };
  const resultant = Math.min(1, Math.hypot(x, y) / count);
  return {
    mean: wrapHue((Math.atan2(y, x) * 180) / Math.PI),
    spread: resultant < 1e-9 ? 180 : (Math.sqrt(Math.max(0, -2 * Math.log(resultant))) * 180) / Math.PI,
    count,
  };
}
