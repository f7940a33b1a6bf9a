/** The 97.5 % quantile of the normal distribution. */
const Z = 1.959963984540054;

/**
 * The 95 % interval of a share `p` (0..1) that rests on `n` independent trials (Wilson 1927, "Probable inference, the
 * law of succession, and statistical inference"). With none, everything is possible: 0..1.
 * @param z how many standard errors to either side
 */
export function wilson(p: number, n: number, z = Z): [low: number, high: number] {
  if (n === 0) return [0, 1];
  const z2 = (z * z) / n;
  const middle = (p + z2 / 2) / (1 + z2);
  const half = (z / (1 + z2)) * Math.sqrt((p * (1 - p)) / n + z2 / (4 * n));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}
