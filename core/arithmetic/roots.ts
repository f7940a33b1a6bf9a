/*
 * Roots from the four operations alone. `Math.cbrt` and `Math.pow` differ in the last bit between
 * engines and languages; these do not, so that written code agrees with the core to the last reading.
 */

/** Cube root of `x` in 0.008..2 to within 1e-15 of itself, by three steps of Halley's method from a parabola near it. */
export function cubeRoot(x: number): number {
  let y = 0.23 + x * (1.54 - 0.57 * x);
  for (let i = 0; i < 3; i++) {
    const cube = y * y * y;
    y += (y * (x - cube)) / (2 * cube + x);
  }
  return y;
}

/** Fifth root of `x` in 0.08..2 to within 1e-15 of itself, by three steps of Halley's method from a parabola near it. */
export function fifthRoot(x: number): number {
  let y = 0.58 + x * (0.65 - 0.19 * x);
  for (let i = 0; i < 3; i++) {
    const square = y * y;
    const fifth = square * square * y;
    y += (y * (x - fifth)) / (3 * fifth + 2 * x);
  }
  return y;
}
