/*
 * Roots from the four operations alone. `Math.cbrt` and `Math.pow` differ in the last bit between
 * engines and languages; these do not, so that exported code agrees with the core to the last reading.
 */

/** Cube root of `x` in 0.001..2, by ten steps of Newton's method from 1. */
export function cubeRoot(x: number): number {
  let y = 1;
  for (let i = 0; i < 10; i++) y = (2 * y + x / (y * y)) / 3;
  return y;
}

/** Fifth root of `x` in 0.01..2, by ten steps of Newton's method from 1. */
export function fifthRoot(x: number): number {
  let y = 1;
  for (let i = 0; i < 10; i++) y = (4 * y + x / (y * y * y * y)) / 5;
  return y;
}
