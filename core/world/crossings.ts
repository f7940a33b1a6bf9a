import { outlineOf, segmentOutline } from "./floor";
import type { EyeTrace, Passage, Trace } from "./trace";
import { thingsOf } from "./trace";

/** A sensor's spot comes over a thing and leaves it, in ms; an end is missing where the run ended first. */
export interface Crossing {
  /** Its first point meets the edge at `from`, and its last one leaves it at `to`. */
  from: number;
  to?: number;
  /** The same of its middle; undefined where that passed beside. */
  middle?: { from: number; to?: number };
}

/** A point's distance beyond a thing's edge, in mm; inside it is not above 0. */
type Beyond = (x: number, y: number) => number;

/** Measures from a thing on the floor; undefined for one that stands upright or is held. */
function beyondOf({ course }: Trace, thing: number): Beyond | undefined {
  const patch = course.patches.at(thing);
  if (thing < course.patches.length && patch !== undefined) {
    const outline = outlineOf(patch.shape, patch.at, patch.angle);
    return (x, y) => outline.beyond(x, y);
  }
  const line = course.lines.at(thing - course.patches.length - course.signs.length - course.cards.length);
  if (thing < course.patches.length + course.signs.length + course.cards.length || line === undefined) return undefined;
  const { points, width, apart } = line;
  const parts = points.flatMap((to, i) =>
    i === 0 || (apart && i % 2 === 0) ? [] : [segmentOutline(points[i - 1], to, width / 2)],
  );
  return (x, y) => parts.reduce((least, part) => Math.min(least, part.beyond(x, y)), Number.POSITIVE_INFINITY);
}

/** Halvings between two ticks: a tick's way is known to a hundredth. */
const HALVINGS = 7;

/**
 * Finds a sensor's crossings of a thing that lies on the floor, by geometry and poses: the times of readings do not
 * matter. Undefined where that cannot be told: for things that stand or are held, and sensors without a spot.
 */
export function crossingsOf(trace: Trace, thing: number, eye: EyeTrace): Crossing[] | undefined {
  const { spot } = eye;
  const beyond = spot && beyondOf(trace, thing);
  if (spot === undefined || beyond === undefined) return undefined;
  const { x, y, sin, cos, tickMs } = trace;
  const ticks = lastTickOf(trace, thing);
  const radius = spot.mm / 2;
  const at = (i: number): [number, number] => [
    x[i] + spot.ahead * cos[i] - spot.left * sin[i],
    y[i] + spot.ahead * sin[i] + spot.left * cos[i],
  ];
  const most = mostStep(ticks, at);
  /** The time between two ticks at which the spot comes within a distance of the thing, or leaves it. */
  const between = (i: number, off: number): number => {
    const [before, after] = [at(i - 1), at(i)];
    let [low, high] = [0, 1];
    const isIn = (share: number) =>
      beyond(before[0] + share * (after[0] - before[0]), before[1] + share * (after[1] - before[1])) <= off;
    const first = isIn(0);
    for (let k = 0; k < HALVINGS; k++) {
      const middle = (low + high) / 2;
      if (isIn(middle) === first) low = middle;
      else high = middle;
    }
    return (i - 1 + high) * tickMs;
  };
  const crossings: Crossing[] = [];
  let now: Crossing | undefined;
  for (let i = 0; i < ticks; i++) {
    const off = beyond(...at(i));
    if (off <= radius && now === undefined) {
      now = { from: i === 0 ? 0 : between(i, radius) };
      crossings.push(now);
    }
    if (now === undefined) {
      // Nothing of it can be under the spot before it has come so far.
      if (most > 0) i += Math.max(0, Math.floor((off - radius) / most) - 1);
      else break;
      continue;
    }
    if (off <= 0 && now.middle === undefined) now.middle = { from: i === 0 ? 0 : between(i, 0) };
    else if (off > 0 && now.middle !== undefined && now.middle.to === undefined) now.middle.to = between(i, 0);
    if (off > radius) {
      now.to = between(i, radius);
      now = undefined;
    }
  }
  return crossings;
}

/** A piece is there until it leaves the belt. */
function lastTickOf(trace: Trace, thing: number): number {
  const gone = trace.notes.find((note) => note.kind === "piece" && note.piece === thing);
  return gone === undefined ? trace.x.length : Math.min(trace.x.length, Math.round(gone.t / trace.tickMs) + 1);
}

/** The longest way of a spot from one tick to the next, in mm. */
function mostStep(ticks: number, at: (i: number) => [number, number]): number {
  let most = 0;
  let [x, y] = ticks > 0 ? at(0) : [0, 0];
  for (let i = 1; i < ticks; i++) {
    const [nx, ny] = at(i);
    most = Math.max(most, Math.sqrt((nx - x) ** 2 + (ny - y) ** 2));
    [x, y] = [nx, ny];
  }
  return most;
}

/**
 * The passages of some sensors over a thing, the earliest first: of what lies on the floor from where the spot's middle
 * came over it, also where that was between two readings; of all else as readings told.
 */
export function passagesOver(trace: Trace, thing: number, eyes: ReadonlySet<number>): Passage[] {
  const { target } = thingsOf(trace.course)[thing];
  return [...eyes]
    .flatMap((eye): Passage[] => {
      const own = trace.eyes.at(eye);
      const crossings = own && crossingsOf(trace, thing, own);
      if (crossings === undefined) return trace.passages.filter((p) => p.patch === thing && p.eye === eye);
      return crossings.flatMap(({ middle }) =>
        middle === undefined
          ? []
          : [{ patch: thing, target, eye, entered: middle.from, ...(middle.to !== undefined && { left: middle.to }) }],
      );
    })
    .sort((a, b) => a.entered - b.entered);
}
