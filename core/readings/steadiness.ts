const PARTS = 4;

/**
 * Whether values move as a whole, more than their noise explains: the means of four parts lie apart by more than
 * `most`, and by more than five standard errors of such a mean. A noisy value that stays where it is does not move.
 *
 * @param most in the unit of the values
 */
export function isMoving(values: ArrayLike<number>, most: number): boolean {
  const size = Math.floor(values.length / PARTS);
  if (size < 2) return false;
  const means: number[] = [];
  let squares = 0;
  for (let part = 0; part < PARTS; part++) {
    let sum = 0;
    for (let i = part * size; i < (part + 1) * size; i++) sum += values[i];
    const mean = sum / size;
    for (let i = part * size; i < (part + 1) * size; i++) squares += (values[i] - mean) ** 2;
    means.push(mean);
  }
  const error = Math.sqrt(squares / (PARTS * (size - 1)) / size);
  const apart = Math.max(...means) - Math.min(...means);
  return apart > most && apart > 5 * error;
}
