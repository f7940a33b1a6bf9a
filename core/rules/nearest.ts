import { sinCos } from "../arithmetic";
import type { TargetId, Unlisted } from "../names";
import type { Features, ReadingBlock } from "../readings";
import type { Reference, RuleSet } from "./ruleSetSchema";

/** The farthest that two places can lie apart. */
export const MOST_REJECT = 2;

/**
 * Where a reading or a reference lies for the nearest method: in the colour cone (x = s·v·cos h, y = s·v·sin h,
 * z = v), on the unit circle where only a hue is known, or along a line where only reflected light is. Places of
 * different kinds cannot be compared.
 */
type Coordinates = readonly number[];

/** Saturation, value and hue (degrees; NaN for a grey) as a place in the cone. */
function inCone(hue: number, sat: number, val: number): Coordinates {
  const radius = sat * val;
  if (Number.isNaN(hue)) return [0, 0, val];
  const { sin, cos } = sinCos(hue);
  return [radius * cos, radius * sin, val];
}

function onCircle(hue: number): Coordinates {
  const { sin, cos } = sinCos(hue);
  return [cos, sin];
}

/** The place of a reading. */
export function placeOf(features: Features): Coordinates {
  if (!Number.isNaN(features.reflected)) return [features.reflected];
  if (Number.isNaN(features.val)) return onCircle(features.hue);
  return inCone(features.hue, features.sat, features.val);
}

/** The place of a reference; empty where it holds too little to be compared with anything. */
export function placeOfReference({ hue, sat, val, reflected }: Unlisted<Reference>): Coordinates {
  if (reflected !== undefined) return [reflected];
  if (sat !== undefined && val !== undefined) return inCone(hue ?? Number.NaN, sat, val);
  return hue !== undefined && val === undefined ? onCircle(hue) : [];
}

/** The straight distance between two places of one kind, 0..2; infinite between kinds. */
export function distanceBetween(a: Coordinates, b: Coordinates): number {
  if (a.length !== b.length || a.length === 0) return Number.POSITIVE_INFINITY;
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] - b[i]) * (a[i] - b[i]);
  return Math.sqrt(sum);
}

/** The places of a rule set's references, worked out once for as long as they stay. */
function placesOf(references: readonly Reference[]): readonly Coordinates[] {
  const known = places.get(references);
  if (known) return known;
  const made = references.map(placeOfReference);
  places.set(references, made);
  return made;
}
const places = new WeakMap<readonly Reference[], readonly Coordinates[]>();

/** The nearest reference and the nearest one of another target, by index and distance; −1 where there is none. */
export interface Nearest {
  first: number;
  d1: number;
  second: number;
  d2: number;
}

/** Compares a reading with every reference; of equally near ones the first counts. */
export function nearestTo({ nearest }: Pick<RuleSet, "nearest">, features: Features): Nearest {
  const here = placeOf(features);
  const all = placesOf(nearest.references);
  const found: Nearest = { first: -1, d1: Number.POSITIVE_INFINITY, second: -1, d2: Number.POSITIVE_INFINITY };
  const distances = all.map((place) => distanceBetween(here, place));
  distances.forEach((d, i) => {
    if (d < found.d1) Object.assign(found, { first: i, d1: d });
  });
  const target = nearest.references[found.first]?.target;
  distances.forEach((d, i) => {
    if (nearest.references[i].target !== target && d < found.d2) Object.assign(found, { second: i, d2: d });
  });
  return found;
}

/**
 * How sure the nearest method is, −1..1: the smaller of how much farther the nearest other target is, and how far
 * the reading lies within the reject distance; below 0 it is rejected. Without any reference 1: nothing can flip.
 */
export function nearestMargin({ nearest }: Pick<RuleSet, "nearest">, { first, d1, second, d2 }: Nearest): number {
  if (first < 0) return 1;
  const apart = second < 0 ? 1 : d1 + d2 === 0 ? 0 : (d2 - d1) / (d2 + d1);
  return Math.max(-1, Math.min(apart, (nearest.reject - d1) / nearest.reject)) || 0;
}

/** How much nearer a target's own references are than all others, and whether within the reject distance; −1..1. */
export function nearestMarginOf({ nearest }: Pick<RuleSet, "nearest">, features: Features, target: TargetId): number {
  const here = placeOf(features);
  let own = Number.POSITIVE_INFINITY;
  let other = Number.POSITIVE_INFINITY;
  placesOf(nearest.references).forEach((place, i) => {
    const d = distanceBetween(here, place);
    if (nearest.references[i].target === target) own = Math.min(own, d);
    else other = Math.min(other, d);
  });
  if (own === Number.POSITIVE_INFINITY) return -1;
  const apart = other === Number.POSITIVE_INFINITY ? 1 : own + other === 0 ? 0 : (other - own) / (other + own);
  return Math.max(-1, Math.min(apart, (nearest.reject - own) / nearest.reject)) || 0;
}

/** Labels a block by the nearest method, reading by reading as `nearestTo` does; label k is `labels` of a reference. */
export function nearestBlock(
  { nearest }: Pick<RuleSet, "nearest">,
  block: ReadingBlock,
  labels: Uint8Array,
  labelOf: (reference: Reference) => number,
): void {
  const columns = block.once(placeColumns);
  const all = placesOf(nearest.references);
  const kept = all.flatMap((place, i) => (place.length === columns.length ? [i] : []));
  const xs = kept.map((i) => all[i]);
  const of = Uint8Array.from(kept, (i) => labelOf(nearest.references[i]));
  const width = columns.length;
  for (let k = 0; k < block.length; k++) {
    let best = Number.POSITIVE_INFINITY;
    let label = 0;
    for (let r = 0; r < xs.length; r++) {
      let sum = 0;
      for (let c = 0; c < width; c++) {
        const d = columns[c][k] - xs[r][c];
        sum += d * d;
      }
      // Roots are compared, as for a single reading: two sums may have the same one.
      const distance = Math.sqrt(sum);
      if (distance < best) {
        best = distance;
        label = of[r];
      }
    }
    labels[k] = best <= nearest.reject ? label : 0;
  }
}

/** The places of all readings of a block, as columns. */
function placeColumns(block: ReadingBlock): readonly Float64Array[] {
  const has = (feature: "reflected" | "val") => block.features.includes(feature);
  let columns: Float64Array[];
  if (has("reflected")) columns = [block.column("reflected")];
  else {
    const hue = block.column("hue");
    const [sat, val] = has("val") ? [block.column("sat"), block.column("val")] : [undefined, undefined];
    columns = Array.from({ length: val ? 3 : 2 }, () => new Float64Array(block.length));
    for (let i = 0; i < block.length; i++) {
      const place = sat && val ? inCone(hue[i], sat[i], val[i]) : onCircle(hue[i]);
      for (let c = 0; c < place.length; c++) columns[c][i] = place[c];
    }
  }
  return columns;
}
