import type { int, num } from "../arithmetic";
import type { Steady } from "./ruleSetSchema";

/**
 * Settings and state of steadying, for several sensors side by side: a place for each. Labels are numbers: 0
 * is unknown, others are targets.
 */
export interface Steadying {
  /** `hits`, `of`, `release` and `rejoinMs` of each place. */
  readonly hits: Int32Array;
  readonly of: Int32Array;
  readonly release: Int32Array;
  readonly rejoinMs: Float64Array;
  readonly places: int;
  /** The most labels that are kept of a place. */
  readonly kept: int;
  /** The last labels, newest first: `kept` of each place, of which the first `recentCount` have come. */
  readonly recent: Int32Array;
  readonly recentCount: Int32Array;
  readonly seen: Int32Array;
  /** The arrival and the departure that the last label brought about, 0 for none; a departure comes before the arrival of the next. */
  readonly comes: Int32Array;
  readonly goes: Int32Array;
  /** Counts visits; one who is back within `rejoinMs`, with nothing but unknown between, keeps the number. */
  readonly visit: Int32Array;
  /** The target of the latest visit, and when it departed in ms (NaN while it is seen). */
  readonly visited: Int32Array;
  readonly departedAt: Float64Array;
}

/** The number of labels that steadying looks back on. */
const keptOf = ({ of, release }: Steady): number => Math.max(of, release);

/** Nothing seen yet by any of some places. */
export function steadyingOf(all: readonly Steady[]): Steadying {
  const kept = Math.max(1, ...all.map(keptOf));
  const none = () => new Int32Array(all.length);
  return {
    hits: Int32Array.from(all, ({ hits }) => hits),
    of: Int32Array.from(all, ({ of }) => of),
    release: Int32Array.from(all, ({ release }) => release),
    rejoinMs: Float64Array.from(all, ({ rejoinMs }) => rejoinMs),
    places: all.length,
    kept,
    recent: new Int32Array(kept * all.length),
    recentCount: none(),
    seen: none(),
    comes: none(),
    goes: none(),
    visit: none(),
    visited: none(),
    departedAt: new Float64Array(all.length).fill(Number.NaN),
  };
}

/** Counts a label among the newest of a place. */
function among(s: Steadying, place: int, label: int, newest: int): int {
  const first = place * s.kept;
  const last = first + Math.min(newest, s.recentCount[place]);
  let found = 0;
  for (let i = first; i < last; i++) if (s.recent[i] === label) found += 1;
  return found;
}

/** Whether a label says what all before it said, so that taking it in changes nothing. */
export function saysTheSame(s: Steadying, place: int, label: int): boolean {
  const keep = Math.max(s.of[place], s.release[place]);
  return label === s.seen[place] && s.recentCount[place] === keep && among(s, place, label, keep) === keep;
}

/**
 * Takes in one label of a place at time `t` (ms). A target other than what is seen takes over once it is the newest
 * label and has `hits` among the last `of`; otherwise what is seen is given up once none of the last `release` labels is
 * it. What happened stands in `goes` and `comes`.
 */
export function steady(s: Steadying, place: int, label: int, t: num): void {
  s.goes[place] = 0;
  s.comes[place] = 0;
  if (saysTheSame(s, place, label)) return;
  const keep = Math.max(s.of[place], s.release[place]);
  const first = place * s.kept;
  let i = first + Math.min(s.recentCount[place], keep - 1);
  s.recentCount[place] = i - first + 1;
  while (i > first) {
    s.recent[i] = s.recent[i - 1];
    i -= 1;
  }
  s.recent[first] = label;
  const before = s.seen[place];
  let now = before;
  if (label !== 0 && label !== before && among(s, place, label, s.of[place]) >= s.hits[place]) now = label;
  else if (before !== 0 && s.recentCount[place] >= s.release[place] && among(s, place, before, s.release[place]) === 0)
    now = 0;
  if (now === before) return;
  s.seen[place] = now;
  // Back soon enough, and nothing else between: the same visit.
  const rejoins = before === 0 && now === s.visited[place] && t - s.departedAt[place] <= s.rejoinMs[place];
  if (before !== 0) {
    s.goes[place] = before;
    s.departedAt[place] = t;
  }
  if (now === 0) return;
  s.visited[place] = now;
  s.departedAt[place] = Number.NaN;
  if (!rejoins) {
    s.comes[place] = now;
    s.visit[place] += 1;
  }
}

/** Forgets all: nothing is seen, and nothing was. */
export function forget(s: Steadying): void {
  for (let place = 0; place < s.places; place++) {
    s.seen[place] = 0;
    s.recentCount[place] = 0;
    s.visit[place] = 0;
    s.visited[place] = 0;
    s.departedAt[place] = Number.NaN;
    s.goes[place] = 0;
    s.comes[place] = 0;
  }
}

/** Steadies the labels of a whole block: what is seen after each reading, as by `steady`. */
export function steadyBlock(labels: Uint8Array, steady: Steady): Uint8Array<ArrayBuffer> {
  const seenAfter = new Uint8Array(labels.length);
  steadyPart(labels, steady, seenAfter, 0, labels.length, { seen: 0, since: 0 });
  return seenAfter;
}
/** Where the steadying of a block stands: what is seen, and readings since that was read last (0 where nothing is seen). */
export interface SteadyState {
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
  at: SteadyState,
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
