import { sinCos } from "../arithmetic";
import { type TargetId, UNKNOWN, type Unknown, type Unlisted } from "../names";
import type { Feature, Features, ReadingBlock } from "../readings";
import { coneX, coneY, labelByReference, nearestReference, type References, referenceMargin } from "./references";
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
  return [coneX(hue, sat, val), coneY(hue, sat, val), val];
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

/** Counts the coordinates of readings that give such features: 0 where they have no place among references. */
export const placeWidth = (features: readonly Feature[]): number =>
  features.includes("reflected") ? 1 : features.includes("val") ? 3 : features.includes("hue") ? 2 : 0;

/** References of one kind as the shared functions have them; a place lacks the coordinates that its kind has not. */
export function referencesOf(places: readonly Coordinates[], labels: readonly number[]): References {
  const column = (k: number) => Float64Array.from(places, (place) => place[k] ?? 0);
  return {
    referenceX: column(0),
    referenceY: column(1),
    referenceZ: column(2),
    referenceLabel: Int32Array.from(labels),
  };
}

/** The references of a rule set, laid out once to compare many readings with. */
export class NearestRules {
  readonly reject: number;
  /** Targets in the order in which their labels count, from 1. */
  private readonly targets: readonly TargetId[];
  /** References by the number of their coordinates, from 1: only places of one kind are compared. */
  private readonly kinds: readonly References[];

  constructor({ references, reject }: RuleSet["nearest"]) {
    this.reject = reject;
    this.targets = [...new Set(references.map(({ target }) => target))];
    const all = references.map((reference) => ({
      place: placeOfReference(reference),
      label: this.labelOf(reference.target),
    }));
    this.kinds = [1, 2, 3].map((width) => {
      const own = all.filter(({ place }) => place.length === width);
      return referencesOf(
        own.map(({ place }) => place),
        own.map(({ label }) => label),
      );
    });
  }

  /** Takes a reading for the target of the nearest reference, within the reject distance. */
  classify(features: Features): TargetId | Unknown {
    const place = placeOf(features);
    const own = this.of(place);
    const label = labelByReference(own, 0, own.referenceLabel.length, this.reject, ...in3(place));
    return label === 0 ? UNKNOWN : this.targets[label - 1];
  }

  /**
   * How sure the method is, −1..1: how clearly the reading is of the target of its nearest reference; below 0 it is
   * rejected. Without any reference 1: nothing can flip.
   */
  margin(features: Features): number {
    const place = placeOf(features);
    const own = this.of(place);
    const nearest = nearestReference(own, 0, own.referenceLabel.length, ...in3(place));
    return nearest < 0 ? 1 : this.marginAt(place, own.referenceLabel[nearest]);
  }

  /** Tells how clearly a reading is of a target, −1..1. */
  marginOf(features: Features, target: TargetId): number {
    return this.marginAt(placeOf(features), this.labelOf(target));
  }

  /** Labels a block, reading by reading as `classify` does; label k is `labelOf` a target. */
  label(block: ReadingBlock, labels: Uint8Array, labelOf: (target: TargetId) => number): void {
    const columns = block.once(placeColumns);
    if (columns.length === 0) return;
    const own = this.kinds[columns.length - 1];
    const given = [0, ...this.targets.map(labelOf)];
    const [xs, ys, zs] = columns;
    const last = own.referenceLabel.length;
    for (let k = 0; k < block.length; k++)
      labels[k] = given[labelByReference(own, 0, last, this.reject, xs[k], ys?.[k] ?? 0, zs?.[k] ?? 0)];
  }

  private labelOf(target: TargetId): number {
    return this.targets.indexOf(target) + 1;
  }

  private of(place: Coordinates): References {
    return this.kinds[place.length - 1];
  }

  private marginAt(place: Coordinates, label: number): number {
    const own = this.of(place);
    return referenceMargin(own, 0, own.referenceLabel.length, label, this.reject, ...in3(place));
  }
}

const in3 = ([x, y = 0, z = 0]: Coordinates): [x: number, y: number, z: number] => [x, y, z];

/** The places of all readings of a block, as columns; none where they have no place. */
function placeColumns(block: ReadingBlock): readonly Float64Array[] {
  const width = placeWidth(block.features);
  if (width === 1) return [block.column("reflected")];
  const columns = Array.from({ length: width }, () => new Float64Array(block.length));
  if (width === 0) return columns;
  const hue = block.column("hue");
  const [sat, val] = width === 3 ? [block.column("sat"), block.column("val")] : [];
  for (let i = 0; i < block.length; i++) {
    const place = sat && val ? inCone(hue[i], sat[i], val[i]) : onCircle(hue[i]);
    for (let c = 0; c < width; c++) columns[c][i] = place[c];
  }
  return columns;
}
