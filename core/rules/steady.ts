import type { Steady } from "./ruleSetSchema";

/**
 * The state of the steadying of one sensor. Labels are numbers: 0 is unknown, others are targets.
 */
export interface Steadied {
  readonly seen: number;
  /** The last labels, newest first, at most as many as hits and release need. */
  readonly recent: readonly number[];
  /** Counts visits; a rejoin within `rejoinMs` keeps the number. */
  readonly visit: number;
  /** The target of the latest visit, and when it departed (NaN while it is seen). */
  readonly visited: number;
  readonly departedAt: number;
}

/** What a reading brought about. A departure comes before the arrival of the next. */
export interface SteadyEvents {
  departs: number;
  arrives: number;
  /** X came back within `rejoinMs` with nothing but unknown between: the same visit, no arrival. */
  rejoins: boolean;
}

export const NOTHING_SEEN: Steadied = { seen: 0, recent: [], visit: 0, visited: 0, departedAt: Number.NaN };
const NO_EVENTS: SteadyEvents = { departs: 0, arrives: 0, rejoins: false };

/** Whether a label says what all before it said, so that taking it in changes nothing. */
export function saysTheSame({ seen, recent }: Steadied, label: number, { of, release }: Steady): boolean {
  const keep = of > release ? of : release;
  return label === seen && recent.length === keep && count(recent, label, keep) === keep;
}

/**
 * Takes in one label at time `t` (ms). A target other than what is seen takes over once it is the newest label and
 * has `hits` among the last `of`; otherwise what is seen is given up once none of the last `release` labels is it.
 */
export function steadyNext(
  state: Steadied,
  label: number,
  t: number,
  steady: Steady,
): { state: Steadied; events: SteadyEvents } {
  if (saysTheSame(state, label, steady)) return { state, events: NO_EVENTS };
  const keep = Math.max(steady.of, steady.release);
  const recent = [label];
  for (let i = 0; i < state.recent.length && i < keep - 1; i++) recent.push(state.recent[i]);
  let seen = state.seen;
  if (label !== 0 && label !== seen && count(recent, label, steady.of) >= steady.hits) seen = label;
  else if (seen !== 0 && recent.length >= steady.release && count(recent, seen, steady.release) === 0) seen = 0;
  if (seen === state.seen) {
    const { visit, visited, departedAt } = state;
    return { state: { seen, recent, visit, visited, departedAt }, events: NO_EVENTS };
  }

  const departedAt = state.seen !== 0 ? t : state.departedAt;
  if (seen === 0)
    return {
      state: { ...state, seen, recent, departedAt },
      events: { departs: state.seen, arrives: 0, rejoins: false },
    };
  const rejoins = state.seen === 0 && seen === state.visited && t - state.departedAt <= steady.rejoinMs;
  return {
    state: { seen, recent, visit: rejoins ? state.visit : state.visit + 1, visited: seen, departedAt: Number.NaN },
    events: { departs: state.seen, arrives: rejoins ? 0 : seen, rejoins },
  };
}

function count(recent: readonly number[], label: number, among: number): number {
  let found = 0;
  for (let i = 0; i < recent.length && i < among; i++) if (recent[i] === label) found++;
  return found;
}

/** Steadies the labels of a whole block: what is seen after each reading, as by `steadyNext`. */
export function steadyBlock(labels: Uint8Array, steady: Steady): Uint8Array<ArrayBuffer> {
  const seenAfter = new Uint8Array(labels.length);
  steadyPart(labels, steady, seenAfter, 0, labels.length, { seen: 0, since: 0 });
  return seenAfter;
}

/** Where the steadying of a block stands: what is seen, and readings since that was read last (0 where nothing is seen). */
export interface Standing {
  seen: number;
  since: number;
}

/** Steadies the readings `from`..`to` (not included) into `seenAfter`; `at` goes on with them. */
export function steadyPart(
  labels: Uint8Array,
  { hits, of, release }: Steady,
  seenAfter: Uint8Array,
  from: number,
  to: number,
  at: Standing,
): void {
  let { seen, since } = at;
  for (let i = from; i < to; i++) {
    const label = labels[i];
    if (label === seen) {
      // As long as the same is read, the same is seen.
      const first = i;
      while (i + 1 < to && labels[i + 1] === seen) i++;
      seenAfter.fill(seen, first, i + 1);
      since = 0;
      continue;
    }
    since++;
    if (label !== 0) {
      let found = 0;
      for (let k = i; k >= 0 && k > i - of; k--) if (labels[k] === label) found++;
      if (found >= hits) {
        seen = label;
        since = 0;
      }
    }
    if (seen !== 0 && since >= release) seen = 0;
    seenAfter[i] = seen;
  }
  at.seen = seen;
  at.since = seen === 0 ? 0 : since;
}
