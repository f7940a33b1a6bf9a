import { everyStep, pacedStep } from "../behaviour";
import { figure } from "../readings";
import { piecesAMinute } from "./checks/beltKinds";
import { run } from "./run";
import type { Simulated } from "./Simulated";
import { sweepCell, underConditions } from "./sweep";
import type { Conditions, SweepGrid } from "./sweepGrid";

/** Factors on the speed from one at which every check holds to another, with none between that was found to fail. */
export interface SpeedRange {
  from: number;
  to: number;
}

/** The result of a search for the highest speed. */
export interface Fastest {
  /**
   * The greatest factor at which every check holds, with these seeds and with as many that the search did not use;
   * undefined where no tried one holds with both.
   */
  speed: number | undefined;
  /** All ranges in which every check holds with the seeds of the search, slowest first. */
  ranges: SpeedRange[];
  /** Speeds to type instead of others, as shares of top speed, tried like `speed`; none where none was found. */
  typed: { from: number; to: number }[];
  /** The belt's rate at that speed, where there is one. */
  piecesAMinute?: number;
}

/** A highest speed is looked for between these factors. */
const SLOW = 1 / 2;
const FASTEST = 4;
/** Slower ones are looked at, down to this, only where none of those holds. */
const SLOWEST = 1 / 16;
/** The search tries so many speeds each time that the speed doubles; the ends of a range are then found to 1 %. */
const A_DOUBLING = 8;
const FINE = 0.01;
/** A speed that does not hold with other seeds is tried so much slower, so often. */
const SLOWER = 0.97;
const TRIES = 12;

/**
 * The ranges of factors on the speed, to 1 %, in which `tries` says yes, slowest first. Speeds from 1/2 to 4 are tried
 * in steps of 9 %, and from 1/16 on where none of them holds, so that a range that fails is passed over only where it is
 * narrower. Each end was itself tried. `told` hears after every try which share of the search is done.
 */
export function speedRanges(tries: (speed: number) => boolean, told: (share: number) => void = () => {}): SpeedRange[] {
  let lattice = latticeOf(SLOW, FASTEST);
  let left = lattice.length;
  let [done, share] = [0, 0];
  const known = new Map<number, boolean>();
  const holds = (speed: number): boolean => {
    const before = known.get(speed);
    if (before !== undefined) return before;
    const now = tries(speed);
    known.set(speed, now);
    done++;
    left = Math.max(0, left - 1);
    share = Math.max(share, done / (done + left));
    told(share);
    return now;
  };
  let found = lattice.map(holds);
  if (!found.includes(true)) {
    lattice = latticeOf(SLOWEST, SLOW);
    left = lattice.length;
    found = lattice.map(holds);
  }
  const ends = found.flatMap((ok, i) => (i > 0 && ok !== found[i - 1] ? [i] : []));
  // Each end takes so many tries more as its step has halves.
  left = ends.reduce((n, i) => n + Math.ceil(Math.log2((lattice[i] - lattice[i - 1]) / FINE)), 0);
  const edge = (good: number, bad: number): number => {
    const middle = hundredths((good + bad) / 2);
    if (middle === good || middle === bad) return good;
    return holds(middle) ? edge(middle, bad) : edge(good, middle);
  };
  const ranges: SpeedRange[] = [];
  found.forEach((ok, i) => {
    if (!ok) return;
    if (!found[i - 1]) ranges.push({ from: i === 0 ? lattice[0] : edge(lattice[i], lattice[i - 1]), to: lattice[i] });
    if (!found[i + 1])
      ranges[ranges.length - 1].to = i === lattice.length - 1 ? lattice[i] : edge(lattice[i], lattice[i + 1]);
  });
  told(1);
  return ranges;
}

const latticeOf = (from: number, to: number): number[] => {
  const steps = Math.round(Math.log2(to / from) * A_DOUBLING);
  return Array.from({ length: steps + 1 }, (_, i) => hundredths(from * 2 ** (i / A_DOUBLING)));
};

const hundredths = (speed: number) => Math.round(speed * 100) / 100;

/**
 * The highest speed at which every check holds at all these points, starts and lights; undefined where there is none.
 * What it says is tried with as many seeds again as it was looked for with.
 */
export function fastestThatHolds<P extends Simulated>(
  project: P,
  course: string,
  points: readonly Conditions[],
  seeds: readonly number[],
  told: (share: number) => void = () => {},
): Fastest | undefined {
  const holds = (of: P, speed: number, which: readonly number[]): boolean => {
    for (const point of points)
      for (const { failed } of sweepCell(of, course, { ...point, speed }, which)) if (failed.length > 0) return false;
    return true;
  };
  const ranges = speedRanges(
    (speed) => holds(project, speed, seeds),
    (share) => told(share * SEARCH),
  );
  const last = Math.max(...seeds);
  const both = [...seeds, ...seeds.map((seed) => last + seed)];
  let tried = 0;
  const holdsAgain = (of: P, speed: number): boolean => {
    tried++;
    told(SEARCH + (1 - SEARCH) * (1 - 1 / (1 + tried / TRIES)));
    return holds(of, speed, both);
  };
  const slower = ranges.toReversed().flatMap(slowerIn);
  if (slower.length === 0) return undefined;
  const speed = slower.slice(0, TRIES).find((factor) => holdsAgain(project, factor));
  if (speed === undefined) return { speed, ranges, typed: [] };
  const typed = slower
    .filter((factor) => factor <= speed)
    .slice(0, TRIES)
    .map((factor) => typedAt(project, factor))
    .find(
      (pairs) =>
        pairs.length > 0 && pairs.every(({ to }) => Math.abs(to) <= 1) && holdsAgain(retyped(project, pairs), 1),
    );
  const [{ start, light, ...point }] = points;
  const rate = piecesAMinute(
    run(underConditions(project, { ...point, speed }), { course, start, light, seed: seeds[0] }),
  );
  return { speed, ranges, typed: typed ?? [], ...(rate > 0 && { piecesAMinute: rate }) };
}

/** The speeds of a range from its end down, each a little slower. */
function slowerIn({ from, to }: SpeedRange): number[] {
  const speeds: number[] = [];
  for (let speed = to; speed >= from; speed = Math.min(hundredths(speed - FINE), hundredths(speed * SLOWER)))
    speeds.push(speed);
  return speeds;
}

/** The search is so much of all the work; the rest tries with other seeds. */
const SEARCH = 0.8;

/** Each speed that steps go straight on at, and the whole percentage that it would be so much faster. */
function typedAt({ behaviour }: Simulated, factor: number): Fastest["typed"] {
  const speeds = new Set<number>();
  const note = (speed: number) => {
    speeds.add(speed);
    return speed;
  };
  everyStep(behaviour, (step) => pacedStep(step, note));
  return [...speeds].map((from) => ({ from, to: Math.trunc(from * factor * 100) / 100 }));
}

/** A project whose steps go straight on at the speeds to type. */
function retyped<P extends Simulated>(project: P, typed: Fastest["typed"]): P {
  const to = (speed: number) => typed.find(({ from }) => from === speed)?.to ?? speed;
  return { ...project, behaviour: everyStep(project.behaviour, (step) => pacedStep(step, to)) };
}

/** Tells of a highest speed: where it holds, with which seeds, and what to type. */
export function fastestInWords(found: Fastest | undefined, project: Simulated, grid: SweepGrid): string {
  const lights = grid.light.map((id) => project.lights.find((l) => l.id === id)?.name ?? id);
  const where = `${inWords("light", lights)}, ${inWords("start", grid.start)}`;
  const seeds = (from: number, to: number) => (from === to ? `seed ${from}` : `seeds ${from} to ${to}`);
  const searched = seeds(1, grid.seeds);
  if (found === undefined)
    return `No speed from 1/16 to ${FASTEST} times was found at which every check holds (${where}, ${searched}).`;
  const { speed, ranges, typed, piecesAMinute: rate } = found;
  const ends = ranges.map(({ from, to }) => (from === to ? `at ${from}` : `from ${from} to ${to}`));
  const within = `With ${searched} it holds ${ends.join(" and ")} times`;
  if (speed === undefined)
    return `${within}, but with ${seeds(grid.seeds + 1, 2 * grid.seeds)} at none of these that was tried (${where}).`;
  return [
    `Every check holds at ${speed} times the speed (${where}, ${searched}, and ${seeds(grid.seeds + 1, 2 * grid.seeds)}, which the search had not used).`,
    `${within}.`,
    typed.length === 0
      ? "No percentage to type was found that does as well: faster motors would."
      : `Type ${typed.map(({ from, to }) => `${figure("val", to)} instead of ${figure("val", from)}`).join(", ")}; that was tried as well.`,
    ...(rate === undefined ? [] : [`It sorts ${rate.toFixed(0)} pieces a minute.`]),
  ].join(" ");
}

/** A few things by name, many by number. */
const inWords = (what: string, names: readonly string[]) =>
  names.length > MOST_NAMED ? `${names.length} ${what}s` : `${what} ${names.join(", ")}`;
const MOST_NAMED = 3;
