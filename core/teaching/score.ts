import { type Cluster, clusterInterval } from "../arithmetic";
import type { LightId } from "../names";
import type { Light } from "../readings";
import type { Target } from "../rules";
import type { MarkedTape } from "./marked";

/** The score of the readings in one light; `light` is missing where none is noted. */
export interface LightScore {
  light: LightId | undefined;
  marked: number;
  right: number;
  /** Readings of targets, and how many of them have their own label. */
  targets: number;
  found: number;
  /** Readings of backgrounds, and how many of them were taken for a target. */
  grounds: number;
  taken: number;
}

/**
 * How marked readings were judged. `counts[truth][label]` counts readings; truth runs over the targets, label over
 * unknown (0) and the targets from 1.
 */
export interface Score {
  counts: number[][];
  marked: number;
  right: number;
  /** Marked stretches that hold a reading: readings of one visit are not independent of one another. */
  visits: Cluster[];
  byLight: LightScore[];
}

/** A score with what its visits come to: how many there are, and the 95 % interval of the share that they give. */
export interface ScoreFigures extends Omit<Score, "visits"> {
  visits: number;
  interval: [low: number, high: number];
}

/** What a score comes to. A long tape has thousands of visits; this is quickly handed from thread to thread. */
export const figuresOf = ({ visits, ...score }: Score): ScoreFigures => ({
  ...score,
  visits: visits.length,
  interval: clusterInterval(visits),
});

/** A score with nothing in it yet. */
export function emptyScore(targets: number): Score {
  return {
    counts: Array.from({ length: targets }, () => new Array<number>(targets + 1).fill(0)),
    marked: 0,
    right: 0,
    visits: [],
    byLight: [],
  };
}

/** Whether a label is right for a truth, both from 1 (label 0: unknown): a background may be taken for any background. */
export function isRight(targets: readonly Pick<Target, "kind">[], truth: number, label: number): boolean {
  if (label === truth) return true;
  const ground = (t: number) => targets[t - 1].kind === "background";
  return ground(truth) && (label === 0 || ground(label));
}

/** `isRight` for every truth (a row each) and label, as 1 or 0; 0 throughout the row of what is not marked. */
export function rightTable(targets: readonly Pick<Target, "kind">[]): Uint8Array {
  const side = targets.length + 1;
  const right = new Uint8Array(side * side);
  for (let truth = 1; truth < side; truth++)
    for (let label = 0; label < side; label++) right[truth * side + label] = isRight(targets, truth, label) ? 1 : 0;
  return right;
}

/** How often each truth in each light was given each label on a tape, and what each of its marks came to. */
export interface Tally {
  /** A row for each light (0: none noted) and truth; a count for each label. */
  counts: Uint32Array;
  visits: Cluster[];
}

type Truth = Pick<MarkedTape, "truth" | "mark"> & { head: Pick<MarkedTape["head"], "marks"> };
interface Counted {
  targets: readonly Pick<Target, "kind">[];
  lights: readonly Pick<Light, "id">[];
}

/** The light of each mark, both from 1; 0 where none is noted. */
const lightsOf = ({ head }: Truth, lights: Counted["lights"]) =>
  Uint8Array.from([0, ...head.marks.map((m) => lights.findIndex((l) => l.id === m.light) + 1)]);

/** Counts the readings of a tape. */
export function tally(tape: Truth, labels: Uint8Array, { targets, lights }: Counted): Tally {
  const { truth, mark } = tape;
  const side = targets.length + 1;
  const lightOfMark = lightsOf(tape, lights);
  const counts = new Uint32Array((lights.length + 1) * side * side);
  const visits = tape.head.marks.map((): Cluster => ({ n: 0, right: 0 }));
  const rightly = rightTable(targets);
  const ofStretch = new Uint32Array(side);
  for (let i = 0; i < truth.length; ) {
    const t = truth[i];
    const m = mark[i];
    for (; i < truth.length && mark[i] === m && truth[i] === t; i++) ofStretch[labels[i]]++;
    const row = (lightOfMark[m] * side + t) * side;
    for (let label = 0; label < side; label++) {
      const n = ofStretch[label];
      if (n === 0) continue;
      ofStretch[label] = 0;
      if (t === 0) continue;
      counts[row + label] += n;
      const visit = visits[m - 1];
      if (visit === undefined) continue;
      visit.n += n;
      visit.right += n * rightly[t * side + label];
    }
  }
  return { counts, visits };
}

/** Brings a tally up to date where labels changed. */
export function retally(
  { counts, visits }: Tally,
  tape: Truth,
  labels: Uint8Array,
  { at, was }: { at: Uint32Array; was: Uint8Array },
  { targets, lights }: Counted,
): void {
  const { truth, mark } = tape;
  const side = targets.length + 1;
  const lightOfMark = lightsOf(tape, lights);
  const rightly = rightTable(targets);
  for (let k = 0; k < at.length; k++) {
    const i = at[k];
    const t = truth[i];
    if (t === 0) continue;
    const row = (lightOfMark[mark[i]] * side + t) * side;
    counts[row + was[k]]--;
    counts[row + labels[i]]++;
    const visit = visits[mark[i] - 1];
    if (visit !== undefined) visit.right += rightly[t * side + labels[i]] - rightly[t * side + was[k]];
  }
}

/**
 * Adds the tally of a tape to a score. A target is judged rightly when it has its own label; a background when it is
 * unknown or taken for a background.
 */
export function addToScore(score: Score, { counts, visits }: Tally, { targets, lights }: Counted): void {
  const side = targets.length + 1;
  const rightly = rightTable(targets);
  for (const visit of visits) if (visit.n > 0) score.visits.push({ ...visit });
  for (let l = 0; l <= lights.length; l++) {
    const own = lightScore(score, lights[l - 1]?.id);
    for (let t = 1; t < side; t++) {
      const ground = targets[t - 1].kind === "background";
      for (let label = 0; label < side; label++) {
        const n = counts[(l * side + t) * side + label];
        if (n === 0) continue;
        const right = n * rightly[t * side + label];
        score.counts[t - 1][label] += n;
        score.marked += n;
        score.right += right;
        own.marked += n;
        own.right += right;
        own[ground ? "grounds" : "targets"] += n;
        own[ground ? "taken" : "found"] += ground ? n - right : right;
      }
    }
  }
  score.byLight = score.byLight.filter((s) => s.marked > 0);
}

function lightScore(score: Score, light: LightId | undefined): LightScore {
  const known = score.byLight.find((s) => s.light === light);
  if (known) return known;
  const made = { light, marked: 0, right: 0, targets: 0, found: 0, grounds: 0, taken: 0 };
  score.byLight.push(made);
  return made;
}
