import { cosOf, type int, type num, sinOf } from "../arithmetic";

/**
 * Stored colours with the label of each, laid out as places: in the colour cone, on the unit circle where only a hue is
 * known (z is 0), or along a line where only reflected light is (y, too).
 */
export interface References {
  readonly referenceX: Float64Array;
  readonly referenceY: Float64Array;
  readonly referenceZ: Float64Array;
  readonly referenceLabel: Int32Array;
}

/** Gives the place of a colour in the cone, x = s·v·cos h; a grey has no hue (NaN) and lies on the axis. */
export function coneX(hue: num, sat: num, val: num): num {
  return Number.isNaN(hue) ? 0 : sat * val * cosOf(hue);
}

/** Gives y = s·v·sin h of the same place. */
export function coneY(hue: num, sat: num, val: num): num {
  return Number.isNaN(hue) ? 0 : sat * val * sinOf(hue);
}

/** Gives the straight distance of a place to a reference, 0..2. */
export function distanceTo(e: References, i: int, x: num, y: num, z: num): num {
  const dx = x - e.referenceX[i];
  const dy = y - e.referenceY[i];
  const dz = z - e.referenceZ[i];
  return Math.sqrt(dx * dx + dy * dy + dz * dz);
}

/** Finds the nearest of the references from `first` on, before `last`; of equally near ones the first. −1 where none is near. */
export function nearestReference(e: References, first: int, last: int, x: num, y: num, z: num): int {
  let nearest = -1;
  let best: num = Infinity;
  for (let i = first; i < last; i++) {
    const distance = distanceTo(e, i, x, y, z);
    if (distance < best) {
      best = distance;
      nearest = i;
    }
  }
  return nearest;
}

/** Gives the label of the nearest of some references as far as the reject distance lets it count; 0 else. */
export function labelByReference(e: References, first: int, last: int, reject: num, x: num, y: num, z: num): int {
  const nearest = nearestReference(e, first, last, x, y, z);
  if (nearest < 0) return 0;
  return distanceTo(e, nearest, x, y, z) <= reject ? e.referenceLabel[nearest] : 0;
}

/**
 * Gives how clearly a place is of a label, −1..1: how much nearer its references are than all others, or, where that is
 * less, how far within the reject distance; −1 for a label without references.
 */
export function referenceMargin(
  e: References,
  first: int,
  last: int,
  label: int,
  reject: num,
  x: num,
  y: num,
  z: num,
): num {
  let own: num = Infinity;
  let other: num = Infinity;
  for (let i = first; i < last; i++) {
    const distance = distanceTo(e, i, x, y, z);
    const isOwn = e.referenceLabel[i] === label;
    if (isOwn && distance < own) own = distance;
    if (!isOwn && distance < other) other = distance;
  }
  if (own === Infinity) return -1;
  let apart: num = 1;
  if (other < Infinity) apart = own + other === 0 ? 0 : (other - own) / (other + own);
  return Math.max(-1, Math.min(apart, (reject - own) / reject));
}
