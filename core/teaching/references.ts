import { wrapHue } from "../colour";
import { type LightId, numbered, type Unlisted } from "../names";
import { distanceBetween, MOST_REJECT, placeOfReference, type Reference, type RuleSet } from "../rules";
import type { Sample } from "./sample";

/** Rounded to what a person can read, and what a sensor can tell. */
const rounded = (x: number) => Math.round(x * 1000) / 1000;

/**
 * References for the nearest method: for each target (backgrounds too) and each light, the middle of its readings in
 * the cone, on the circle or along the line.
 */
export function referencesFromMarks(sample: Sample): Reference[] {
  const found = sample.targets.flatMap((target, t) =>
    [...new Set(sample.light)]
      .sort((a, b) => a - b)
      .flatMap((light): Unlisted<Reference>[] => {
        const indices: number[] = [];
        for (let i = 0; i < sample.count; i++)
          if (sample.truth[i] === t + 1 && sample.light[i] === light) indices.push(i);
        const middle = indices.length === 0 ? undefined : middleOf(sample, indices);
        if (middle === undefined) return [];
        const lightId: LightId | undefined = sample.lights[light - 1]?.id;
        return [{ target: target.id, ...middle, ...(lightId !== undefined && { light: lightId }) }];
      }),
  );
  return numbered("reference", found);
}

/** The middle of some readings as a reference holds it; undefined where their kind has none. */
export function middleOf(
  sample: Sample,
  indices: readonly number[],
): Omit<Reference, "id" | "target" | "light"> | undefined {
  const mean = (value: (i: number) => number) => indices.reduce((sum, i) => sum + value(i), 0) / indices.length;
  if (sample.features.includes("reflected")) {
    const column = sample.column("reflected");
    return { reflected: rounded(mean((i) => column[i])) };
  }
  if (!sample.features.includes("hue")) return undefined;
  const hue = sample.column("hue");
  const radians = (i: number) => (hue[i] * Math.PI) / 180;
  const cone = sample.features.includes("val");
  const [sat, val] = cone ? [sample.column("sat"), sample.column("val")] : [undefined, undefined];
  const radius = (i: number) => (Number.isNaN(hue[i]) ? 0 : sat && val ? sat[i] * val[i] : 1);
  const x = mean((i) => (radius(i) === 0 ? 0 : radius(i) * Math.cos(radians(i))));
  const y = mean((i) => (radius(i) === 0 ? 0 : radius(i) * Math.sin(radians(i))));
  const angle = (Math.round(wrapHue((Math.atan2(y, x) * 180) / Math.PI) * 10) / 10) % 360;
  if (val === undefined) return { hue: angle };
  const z = mean((i) => val[i]);
  const saturation = z === 0 ? 0 : Math.min(1, Math.hypot(x, y) / z);
  return { ...(saturation >= 0.005 && { hue: angle }), sat: rounded(saturation), val: rounded(Math.min(1, z)) };
}

/** Of marked readings this share shall lie within the reject distance of their own nearest reference. */
const WITHIN = 0.99;

/** The reject distance where nothing is marked, and the most that room between references gives. */
const USUAL_REJECT = 0.25;

/**
 * A reject distance that holds nearly all marked readings of targets, with a quarter to spare, and where things lie
 * far apart half of the way to the next: another light moves them all. `USUAL_REJECT` where nothing is marked.
 */
export function rejectFor(sample: Sample, references: readonly Reference[]): number {
  const distances = ownDistances(sample, references);
  if (distances.length === 0) return USUAL_REJECT;
  const at = distances[Math.min(distances.length - 1, Math.floor(distances.length * WITHIN))];
  const room = Math.min(USUAL_REJECT, leastApart(sample, references) / 2);
  return Math.max(0.02, Math.min(MOST_REJECT, Math.ceil(Math.max(at * 1.25, room) * 100) / 100));
}

/** The least distance of another thing's reference from any target's. */
function leastApart({ targets }: Sample, references: readonly Reference[]): number {
  const isGround = new Set(targets.filter((t) => t.kind === "background").map((t) => t.id));
  const places = references.map((r) => ({ target: r.target, place: placeOfReference(r) }));
  let least = Number.POSITIVE_INFINITY;
  for (const a of places)
    for (const b of places)
      if (a.target !== b.target && !isGround.has(a.target)) least = Math.min(least, distanceBetween(a.place, b.place));
  return least;
}

/** How far each target's marked readings lie from their nearest own reference, sorted. */
function ownDistances(sample: Sample, references: readonly Reference[]): Float64Array {
  const distances: number[] = [];
  sample.targets.forEach((target, t) => {
    if (target.kind === "background") return;
    const own = references.filter((r) => r.target === target.id).map(placeOfReference);
    if (own.length === 0) return;
    for (let i = 0; i < sample.count; i++) {
      if (sample.truth[i] !== t + 1) continue;
      const here = placeOfReference(readingAsReference(sample, i));
      distances.push(Math.min(...own.map((place) => distanceBetween(here, place))));
    }
  });
  return Float64Array.from(distances).sort();
}

function readingAsReference(sample: Sample, i: number): Unlisted<Reference> {
  const target = sample.targets[sample.truth[i] - 1].id;
  if (sample.features.includes("reflected")) return { target, reflected: sample.column("reflected")[i] };
  const hue = sample.column("hue")[i];
  const known = Number.isNaN(hue) ? {} : { hue };
  return sample.features.includes("val")
    ? { target, ...known, sat: sample.column("sat")[i], val: sample.column("val")[i] }
    : { target, ...known };
}

/** A rule set that works by nearest references made from marks. */
export function nearestFromMarks(ruleSet: RuleSet, sample: Sample): RuleSet {
  const references = referencesFromMarks(sample);
  return { ...ruleSet, method: "nearest", nearest: { references, reject: rejectFor(sample, references) } };
}
