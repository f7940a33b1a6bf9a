import { sinCos } from "../arithmetic";
import type { RuleSetId, TapeId, TargetId } from "../names";
import type { Feature, Light } from "../readings";
import type { Target } from "../rules";
import type { MarkedTape } from "./marked";
import { type Sample, sampleOf } from "./sample";

/** What lies so many deviations from the middle of its own, and so much nearer to something else's, was not read on its own. */
const FAR = 4;
const NEARER = 0.5;
/** A deviation is at least so much of a channel's range, so that a still sensor is not held to its noise. */
const LEAST = 0.012;
/** Fewer readings have no middle worth the name. */
const FEW = 8;

/** The numbers that a reading is compared by: red, green and blue where there are any. */
function coordinates(sample: Sample): Float64Array[] {
  const has = (...wanted: Feature[]) => wanted.every((f) => sample.features.includes(f));
  if (has("r", "g", "b")) return (["r", "g", "b"] as const).map((f) => sample.column(f));
  if (has("reflected")) return [sample.column("reflected")];
  if (!has("hue")) return [];
  const hue = sample.column("hue");
  return [hue.map((h) => sinCos(Number.isNaN(h) ? 0 : h).cos), hue.map((h) => sinCos(Number.isNaN(h) ? 0 : h).sin)];
}

/** Where most readings of one mark lie: their median in each coordinate, and how far half of them lie from it. */
interface Heap {
  truth: number;
  /** The light and where it was read: what the program's own optics gave is as another light beside what was measured. */
  light: number;
  own: readonly number[];
  middle: readonly number[];
  deviation: readonly number[];
}

/** So many values tell the median of more. */
const ENOUGH = 301;

function medianOf(values: readonly number[]): number {
  const every = Math.max(1, Math.floor(values.length / ENOUGH));
  const sorted = new Float64Array(Math.ceil(values.length / every));
  for (let k = 0; k < sorted.length; k++) sorted[k] = values[k * every];
  sorted.sort();
  return sorted[sorted.length >> 1];
}

const worldOf = ({ light }: Heap) => light >> 8;

/** How many deviations a place lies away from the middle of a heap. */
function away({ middle, deviation }: Heap, place: readonly number[]): number {
  let sum = 0;
  for (let c = 0; c < place.length; c++) sum += ((place[c] - middle[c]) / deviation[c]) ** 2;
  return Math.sqrt(sum / place.length);
}

/**
 * For each marked reading that was most probably not read on what its mark says, what it looks like instead: a target
 * from 1; 0 for all others. Strays of a mark that is too long are told by the middle of their mark, which they do not
 * move; a mark that is wrong altogether by the other marks of the same thing.
 */
export function straysOf(sample: Sample): Uint8Array<ArrayBuffer> {
  const strays = new Uint8Array(sample.count);
  const columns = coordinates(sample);
  if (columns.length === 0) return strays;
  const heaps = heapsOf(sample, columns);
  const isGround = (truth: number) => sample.targets[truth - 1].kind === "background";
  /** What a heap can be taken for by mistake: what is read in its own light, but no background for another. */
  const rivalsOf = (heap: Heap) =>
    heaps.filter(
      (h) => h.truth !== heap.truth && h.light === heap.light && !(isGround(h.truth) && isGround(heap.truth)),
    );
  const worlds = [0, 1].map((world) => heaps.filter((heap) => worldOf(heap) === world));
  const wrong = new Map<Heap, number>();
  for (const heap of heaps) {
    const like = wrongAltogether(heap, worlds[worldOf(heap)], isGround);
    if (like > 0) wrong.set(heap, like);
  }
  markLoose(strays, sample, columns, heaps);
  for (const heap of heaps) {
    const like = wrong.get(heap);
    if (like !== undefined) {
      for (const i of heap.own) strays[i] = like;
      continue;
    }
    const [one, two, three] = columns;
    const [m0, m1, m2] = heap.middle;
    const [d0, d1, d2] = heap.deviation;
    let others: Heap[] | undefined;
    for (const i of heap.own) {
      // Most readings lie near the middle of their own: those are asked no more.
      let sum = ((one[i] - m0) / d0) ** 2;
      if (two !== undefined) sum += ((two[i] - m1) / d1) ** 2;
      if (three !== undefined) sum += ((three[i] - m2) / d2) ** 2;
      const far = Math.sqrt(sum / columns.length);
      if (!(far >= FAR)) continue;
      others ??= rivalsOf(heap).filter((h) => !wrong.has(h));
      const place = columns.map((column) => column[i]);
      let least = NEARER * far;
      for (const other of others) {
        const near = away(other, place);
        if (near >= least) continue;
        least = near;
        strays[i] = other.truth;
      }
    }
  }
  return strays;
}

/**
 * Finds strays among the readings of marks that are too short to have a middle of their own, such as single wrong ones:
 * they are told by the middle of all that is marked as the same thing in their light, which a few wrong ones do not move.
 */
function markLoose(strays: Uint8Array, sample: Sample, columns: readonly Float64Array[], heaps: readonly Heap[]): void {
  const isLoose = new Uint8Array(sample.count).fill(1);
  for (const { own } of heaps) for (const i of own) isLoose[i] = 0;
  if (!isLoose.includes(1)) return;
  const pooled = heapsOf(sample, columns, () => 0);
  const isGround = (truth: number) => sample.targets[truth - 1].kind === "background";
  for (let i = 0; i < sample.count; i++) {
    if (isLoose[i] === 0) continue;
    const truth = sample.truth[i];
    const light = lightOf(sample, i);
    const place = columns.map((column) => column[i]);
    const own = pooled.find((heap) => heap.truth === truth && heap.light === light);
    if (own === undefined) continue;
    const far = away(own, place);
    if (far < FAR) continue;
    let least = NEARER * far;
    for (const other of pooled) {
      if (other.truth === truth || other.light !== light || (isGround(other.truth) && isGround(truth))) continue;
      const near = away(other, place);
      if (near >= least) continue;
      least = near;
      strays[i] = other.truth;
    }
  }
}

/** How far a mark lies from the nearest other one of its thing; infinite where there is none. */
function fromItsOwn(heap: Heap, heaps: readonly Heap[]): number {
  let own = Number.POSITIVE_INFINITY;
  for (const h of heaps) if (h !== heap && h.truth === heap.truth) own = Math.min(own, away(h, heap.middle));
  return own;
}

/**
 * What a whole mark looks like, where it is far from all others of its thing and much nearer to one of something else;
 * else 0. Another light moves all that is read, and by more than things differ. So it is asked only where the light is
 * no reason: where its thing is marked once more in that light and lies elsewhere, or where a mark of something else
 * lies there in that light, and near to its own in the others.
 *
 * @param heaps those that were read in the same world
 */
function wrongAltogether(heap: Heap, heaps: readonly Heap[], isGround: (truth: number) => boolean): number {
  const own = fromItsOwn(heap, heaps);
  if (own === Number.POSITIVE_INFINITY || own < FAR) return 0;
  const twice = heaps.some((h) => h !== heap && h.truth === heap.truth && h.light === heap.light);
  let least = NEARER * own;
  let like = 0;
  for (const h of heaps) {
    if (h.truth === heap.truth || (isGround(h.truth) && isGround(heap.truth))) continue;
    const far = away(h, heap.middle);
    if (far >= least) continue;
    if (twice || (h.light === heap.light && fromItsOwn(h, heaps) < NEARER * own)) [least, like] = [far, h.truth];
  }
  return like;
}

/** More marks than this are taken together by thing and light: each of them alone would take too long. */
const MOST_MARKS = 1500;

/** In which light, and by which world, a reading was taken. */
const lightOf = ({ light, simulated }: Sample, index: number) => light[index] + 256 * (simulated?.[index] ?? 0);

/** Gives the mark of each reading; all of one thing and light count as one mark where there are too many. */
function markOf(sample: Sample): (index: number) => number {
  const marks = new Set(sample.visit).size;
  return marks > MOST_MARKS ? () => 0 : (i) => sample.visit[i];
}

/** The heaps of a sample: of each mark, where there is enough to have a middle. */
function heapsOf(sample: Sample, columns: readonly Float64Array[], mark = markOf(sample)): Heap[] {
  const indices = new Map<number, number[]>();
  for (let i = 0; i < sample.count; i++) {
    const key = (mark(i) * 512 + lightOf(sample, i)) * 256 + sample.truth[i];
    const known = indices.get(key);
    if (known) known.push(i);
    else indices.set(key, [i]);
  }
  return [...indices.values()].flatMap((own): Heap[] => {
    if (own.length < FEW) return [];
    const middle = columns.map((column) => medianOf(own.map((i) => column[i])));
    // 1.4826 times the median deviation is the standard deviation of what is normal (Hampel 1974).
    const deviation = columns.map((column, c) =>
      Math.max(LEAST, 1.4826 * medianOf(own.map((i) => Math.abs(column[i] - middle[c])))),
    );
    return [{ truth: sample.truth[own[0]], light: lightOf(sample, own[0]), own, middle, deviation }];
  });
}

/** A stretch of a mark that looks like something else. */
export interface DoubtfulStretch {
  tape: TapeId;
  /** The mark's place among those of the tape. */
  mark: number;
  /** From the first to the last reading of it, in ms. */
  from: number;
  to: number;
  /** Where in the mark: it begins with it, ends with it, has it within, or is all of it. */
  where: "start" | "end" | "middle" | "all";
  target: TargetId;
  like: TargetId;
}

/** Fewer readings in a row are chance. */
const RUN = 3;

/** Where the marks of a rule set's tapes look wrong: runs of readings that look like something else. */
export function doubtfulStretches(
  project: { targets: readonly Target[]; lights: readonly Light[] },
  tapes: readonly MarkedTape[],
  ruleSet: RuleSetId,
): DoubtfulStretch[] {
  const strays = straysOf(sampleOf(project, tapes, ruleSet));
  const found: DoubtfulStretch[] = [];
  let n = 0;
  for (const { head, sensor, block, mark, truth } of tapes) {
    if (sensor.ruleSet !== ruleSet) continue;
    /** What each marked reading of the tape looks like, by its place on the tape. */
    const like = new Uint8Array(truth.length);
    for (let i = 0; i < truth.length; i++) if (truth[i] !== 0) like[i] = strays[n++];
    for (let i = 0; i < like.length; ) {
      const from = i++;
      if (like[from] === 0) continue;
      while (i < like.length && like[i] === like[from] && mark[i] === mark[from]) i++;
      if (i - from < RUN) continue;
      const starts = from === 0 || mark[from - 1] !== mark[from];
      const ends = i === like.length || mark[i] !== mark[from];
      found.push({
        tape: head.id,
        mark: mark[from] - 1,
        from: block.t[from],
        to: block.t[i - 1],
        where: starts ? (ends ? "all" : "start") : ends ? "end" : "middle",
        target: project.targets[truth[from] - 1].id,
        like: project.targets[like[from] - 1].id,
      });
    }
  }
  return found;
}
