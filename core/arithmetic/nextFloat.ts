const float = new Float64Array(1);
const bits = new BigInt64Array(float.buffer);

/** The float64 just above a finite `x` (direction 1) or just below it (direction −1). */
export function nextFloat(x: number, direction: 1 | -1): number {
  if (x === 0) return direction * Number.MIN_VALUE;
  float[0] = x;
  bits[0] += BigInt(x > 0 === (direction === 1) ? 1 : -1);
  return float[0];
}
