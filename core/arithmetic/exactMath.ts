/*
 * Functions from the four operations and the square root alone. `Math.sin`, `Math.log` and their like may differ in
 * the last bit between engines; these do not, so that one seed gives one run, byte for byte, everywhere.
 */

/** Sine of an angle of at most 45°, in radians, by its Taylor series. */
function sineNear(x: number): number {
  const s = x * x;
  return x * (1 - (s / 6) * (1 - (s / 20) * (1 - (s / 42) * (1 - (s / 72) * (1 - (s / 110) * (1 - s / 156))))));
}

/** Cosine of an angle of at most 45°, in radians, by its Taylor series. */
function cosineNear(x: number): number {
  const s = x * x;
  return (
    1 - (s / 2) * (1 - (s / 12) * (1 - (s / 30) * (1 - (s / 56) * (1 - (s / 90) * (1 - (s / 132) * (1 - s / 182))))))
  );
}

/** The nearest whole number; of two equally near ones the larger. */
export function rounded(x: number): number {
  const down = Math.floor(x);
  return x - down >= 0.5 ? down + 1 : down;
}

/** Sine of an angle in degrees, `ahead` quarter turns on, by Taylor series after folding into −45°..45°. */
function wave(degrees: number, ahead: number): number {
  const quarter = rounded(degrees / 90);
  const x = (degrees - quarter * 90) * (Math.PI / 180);
  const turn = (((quarter + ahead) % 4) + 4) % 4;
  if (turn === 0) return sineNear(x);
  if (turn === 1) return cosineNear(x);
  return turn === 2 ? -sineNear(x) : -cosineNear(x);
}

/** Sine of an angle in degrees. */
export function sinOf(degrees: number): number {
  return wave(degrees, 0);
}

/** Cosine of an angle in degrees. */
export function cosOf(degrees: number): number {
  return wave(degrees, 1);
}

/** Both at once, as the two give them. */
export function sinCos(degrees: number): { sin: number; cos: number } {
  const quarter = Math.round(degrees / 90);
  const x = (degrees - quarter * 90) * (Math.PI / 180);
  const sin = sineNear(x);
  const cos = cosineNear(x);
  switch (((quarter % 4) + 4) % 4) {
    case 0:
      return { sin, cos };
    case 1:
      return { sin: cos, cos: -sin };
    case 2:
      return { sin: -sin, cos: -cos };
    default:
      return { sin: -cos, cos: sin };
  }
}

/** e^−x for x in 0..700: halved until the series converges fast, then squared back. */
export function expMinus(x: number): number {
  let halvings = 0;
  let y = x;
  while (y > 0.25) {
    y /= 2;
    halvings++;
  }
  let sum = 1;
  for (let k = 14; k >= 1; k--) sum = 1 - (y / k) * sum;
  for (; halvings > 0; halvings--) sum *= sum;
  return sum;
}

/** Natural logarithm of x in 1e-12..1: halvings to 0.5..1, then the series of the inverse hyperbolic tangent. */
function naturalLog(x: number): number {
  let halvings = 0;
  let y = x;
  while (y < 0.5) {
    y *= 2;
    halvings++;
  }
  const z = (y - 1) / (y + 1);
  const s = z * z;
  let sum = 0;
  for (let k = 25; k >= 1; k -= 2) sum = sum * s + 1 / k;
  return 2 * z * sum - halvings * Math.LN2;
}

const A = [
  -3.969683028665376e1, 2.209460984245205e2, -2.759285104469687e2, 1.38357751867269e2, -3.066479806614716e1,
  2.506628277459239,
];
const B = [-5.447609879822406e1, 1.615858368580409e2, -1.556989798598866e2, 6.680131188771972e1, -1.328068155288572e1];
const C = [
  -7.784894002430293e-3, -3.223964580411365e-1, -2.400758277161838, -2.549732539343734, 4.374664141464968,
  2.938163982698783,
];
const D = [7.784695709041462e-3, 3.224671290700398e-1, 2.445134137142996, 3.754408661907416];

/**
 * The standard normal value below which the share `p` (0 < p < 1) lies. Acklam's rational approximation (2003),
 * relative error under 1.2e-9.
 */
export function normalQuantile(p: number): number {
  if (p < 0.02425) return tail(Math.sqrt(-2 * naturalLog(p)));
  if (p > 1 - 0.02425) return -tail(Math.sqrt(-2 * naturalLog(1 - p)));
  const q = p - 0.5;
  const r = q * q;
  return (
    ((((((A[0] * r + A[1]) * r + A[2]) * r + A[3]) * r + A[4]) * r + A[5]) * q) /
    (((((B[0] * r + B[1]) * r + B[2]) * r + B[3]) * r + B[4]) * r + 1)
  );
}

function tail(q: number): number {
  return (
    (((((C[0] * q + C[1]) * q + C[2]) * q + C[3]) * q + C[4]) * q + C[5]) /
    ((((D[0] * q + D[1]) * q + D[2]) * q + D[3]) * q + 1)
  );
}
