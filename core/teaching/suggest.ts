import { freeId, type RuleId, type TargetId } from "../names";
import { FEATURE_FACTS, type Feature } from "../readings";
import { type Rule, type Target, testHolds } from "../rules";
import { partOf, type Sample } from "./sample";
import { straysOf } from "./strays";
import { bandFor, countPassed, sentenceFor } from "./suggestBand";
import {
  ALL_LIGHTS,
  excessOf,
  type Grid,
  gridOf,
  type Own,
  separation,
  spreadOfOwn,
  spreads,
  withinBits,
} from "./suggestGrid";

/** Why a band is where it is. */
export interface BandReason {
  feature: Feature;
  sentence: string;
}

/** One rule that is suggested, with its reasons. */
export interface SuggestedRule {
  rule: Rule;
  target: Target;
  /** What it took to keep the target from everything else, in the student's figures. */
  sentence: string;
  bands: BandReason[];
  /** Readings of the target that the rule takes, and how many there are. */
  found: number;
  of: number;
  /** Readings of other things that it takes as well. */
  taken: number;
  /** How far apart the target and the nearest other reading are, over the features' spans. */
  margin: number;
}

/** Two things that no bands can keep apart. */
export interface Inseparable {
  target: TargetId;
  other: TargetId;
  /** Readings of `other` that lie where those of `target` do. */
  taken: number;
  of: number;
}

/** A rule that takes more than this share of something else does more harm than none: it is not suggested. */
const MOST_TAKEN = 0.5;

export interface Suggestion {
  rules: SuggestedRule[];
  inseparable: Inseparable[];
  /** Targets whose rule would take most readings of something else, so that none is suggested. */
  refused: TargetId[];
  /** Targets of which nothing is marked, so that nothing can be suggested. */
  unmarked: TargetId[];
}

/**
 * The rules of a set once suggested ones are taken: all of them, or those for the targets of `only`. Taken whole, they
 * take the place of every rule but those of targets that were refused one; in part, of their own targets' rules.
 */
export function withSuggested(
  rules: readonly Rule[],
  { rules: made, refused }: Pick<Suggestion, "rules" | "refused">,
  only?: ReadonlySet<TargetId>,
): Rule[] {
  const kept = rules.filter((r) => (only === undefined ? refused.includes(r.target) : !only.has(r.target)));
  const ids = new Set(kept.map((r) => r.id));
  const fresh = made.flatMap(({ rule }) => {
    if (only !== undefined && !only.has(rule.target)) return [];
    const id = freeId<RuleId>(rule.id, ids);
    ids.add(id);
    return [{ ...rule, id }];
  });
  return [...fresh, ...kept];
}

/** At most so many features a rule. */
const MOST_FEATURES = 3;
const SINGLE: readonly Feature[] = ["r", "g", "b", "clear"];

/**
 * Suggests bands for every target that is not a background: the fewest features that keep it from everything else in
 * the light of what is marked, also in a light that was left out; bounds half-way to the nearest other reading, but
 * not farther beyond the target's own spread than its reach. Strays of the marks are left out of account.
 */
export function suggest(marked: Sample): Suggestion {
  const strays = straysOf(marked);
  // What was not read on what its mark says moves no bound; it counts among what a rule has and has not.
  return counted(marked, suggestFrom(strays.some((s) => s > 0) ? partOf(marked, (i) => strays[i] === 0) : marked));
}

/** The suggestion with what each rule takes of all that is marked. */
function counted(sample: Sample, suggestion: Suggestion): Suggestion {
  return {
    ...suggestion,
    rules: suggestion.rules.map((made): SuggestedRule => {
      const truth = sample.targets.indexOf(made.target) + 1;
      const [{ all }] = made.rule.any;
      const columns = all.map((test) => sample.column(test.feature));
      let [found, of] = [0, 0];
      for (let i = 0; i < sample.count; i++) {
        if (sample.truth[i] !== truth) continue;
        of++;
        if (all.every((test, k) => testHolds(test, columns[k][i]))) found++;
      }
      return { ...made, found, of };
    }),
  };
}

function suggestFrom(sample: Sample): Suggestion {
  const grid = gridOf(sample);
  const marked = countPassed(sample, new Uint8Array(sample.count), 0);
  const rules: SuggestedRule[] = [];
  const inseparable: Inseparable[] = [];
  const refused: TargetId[] = [];
  const unmarked: TargetId[] = [];
  const ids: string[] = [];
  sample.targets.forEach((target, i) => {
    if (target.kind === "background") return;
    if (marked[i + 1] === 0) {
      unmarked.push(target.id);
      return;
    }
    const made = suggestFor(grid, i + 1, marked, freeId<RuleId>(target.id, ids));
    if (made === undefined) return;
    inseparable.push(...made.inseparable);
    if (made.inseparable.some(({ taken, of }) => taken > MOST_TAKEN * of)) {
      refused.push(target.id);
      return;
    }
    ids.push(made.rule.rule.id);
    rules.push(made.rule);
  });
  return { rules, inseparable, refused, unmarked };
}

function sizeOf(set: number): number {
  let size = 0;
  for (let left = set; left !== 0; left &= left - 1) size++;
  return size;
}

/** Every set of at most three of the features that can be tested, as bits, the smaller sets first. */
function subsets(owns: readonly (Own | undefined)[]): number[] {
  const usable = owns.reduce((bits, own, k) => (own ? bits | (1 << k) : bits), 0);
  const all = Array.from({ length: 2 ** owns.length - 1 }, (_, i) => i + 1);
  return all
    .filter((set) => (set & usable) === set && sizeOf(set) <= MOST_FEATURES)
    .sort((a, b) => sizeOf(a) - sizeOf(b) || a - b);
}

/** How many counted readings lie within all features of a set. */
function withinSet(counts: Uint32Array, set: number): number {
  let sum = 0;
  for (let b = 0; b < counts.length; b++) if ((b & set) === set) sum += counts[b];
  return sum;
}

/** Of sets that do equally well, so many are compared by how far they keep the others out. */
const MOST_COMPARED = 12;
/** A set whose nearest other reading lies a whole spread away, or nearly as far as with any set, is good enough. */
const ENOUGH = 1;
const NEARLY = 0.9;
/** A set costs its wrong readings as a share of the target's own, and so much for each spread that the others are nearer than this. */
const NARROW = 0.25;
const NARROW_COST = 4;
/** Costs that differ by less are the same. */
const SAME_COST = 0.01;

function suggestFor(grid: Grid, truth: number, marked: Uint32Array, id: RuleId) {
  const { sample, features } = grid;
  const target = sample.targets[truth - 1];
  const owns = spreads(grid, truth, ALL_LIGHTS);
  const candidates = subsets(owns);
  if (candidates.length === 0) return undefined;
  const bits = withinBits(grid.columns, owns, 0);
  const counts = new Uint32Array(2 ** features.length);
  for (let i = 0; i < bits.length; i++) if (sample.truth[i] !== truth) counts[bits[i]]++;
  const left = leftOut(grid, truth);
  const wrong = (set: number) => withinSet(counts, set) + left(set);
  // Single channels move with every change of light, so they serve only where nothing else keeps all apart.
  const single = features.reduce((bits, f, k) => (SINGLE.includes(f) ? bits | (1 << k) : bits), 0);
  const steady = candidates.filter((set) => (set & single) === 0);
  const tried = steady.some((set) => withinSet(counts, set) === 0) ? steady : candidates;
  const cheapest = tried
    .map((set) => ({ set, size: sizeOf(set), wrong: wrong(set) }))
    .sort((a, b) => a.wrong - b.wrong || a.size - b.size || a.set - b.set)
    .slice(0, MOST_COMPARED);
  const excess = excessOf(
    grid,
    owns,
    cheapest.reduce((bits, c) => bits | c.set, 0),
  );
  const ones = owns.map(() => 1);
  const compared = cheapest.map((c) => {
    const apart = separation(sample, truth, excess, bits, c.set, ones);
    const cost = c.wrong / marked[truth] + NARROW_COST * Math.max(0, NARROW - apart);
    return { ...c, apart, cost };
  });
  // The fewest features that cost hardly more, and keep the others nearly as far out, as any set does.
  const least = Math.min(...compared.map((c) => c.cost));
  const equals = compared.filter((c) => c.cost <= least + SAME_COST);
  const enough = Math.min(NEARLY * Math.max(...equals.map((c) => c.apart)), ENOUGH);
  const best = equals
    .filter((c) => c.apart >= enough)
    .reduce((x, y) => (y.size < x.size || (y.size === x.size && y.apart > x.apart) ? y : x));
  const chosen = owns.flatMap((own, k) => (own && best.set & (1 << k) ? [{ own, k }] : []));
  const bands = chosen.map((c) => bandFor(grid, truth, c, chosen, excess));
  const tests = bands.map((b) => b.test);
  // What each test lets through, a bit a test; a reading is taken where all bits stand.
  const passed = new Uint8Array(sample.count);
  tests.forEach((test, k) => {
    const column = sample.column(test.feature);
    for (let i = 0; i < passed.length; i++) if (testHolds(test, column[i])) passed[i] |= 1 << k;
  });
  const all = 2 ** tests.length - 1;
  const takenBy = countPassed(sample, passed, all);
  const found = takenBy[truth];
  takenBy[truth] = 0;
  const taken = takenBy.reduce((a, b) => a + b, 0);
  const toSpan = owns.map((own) => (own ? spreadOfOwn(own) / FEATURE_FACTS[own.feature].span : 0));
  const margin = Math.min(1, separation(sample, truth, excess, bits, best.set, toSpan));
  return {
    rule: {
      rule: { id, target: target.id, on: true, any: [{ all: tests }] },
      target,
      sentence: sentenceFor(sample, truth, tests, passed, marked, margin, taken),
      bands: bands.map(({ test, sentence }) => ({ feature: test.feature, sentence })),
      found,
      of: marked[truth],
      taken,
      margin,
    },
    inseparable: [...takenBy].flatMap((n, t): Inseparable[] =>
      n === 0 ? [] : [{ target: target.id, other: sample.targets[t - 1].id, taken: n, of: marked[t] }],
    ),
  };
}

/**
 * How many readings a set of features would judge wrongly in a light that it was not made from: for each light, the
 * spreads are taken from the others. With one light alone nothing can be said, and all sets do equally well.
 */
function leftOut(grid: Grid, truth: number): (set: number) => number {
  const { lights, features } = grid;
  if (lights.length < 2) return () => 0;
  const folds = lights.flatMap((light) => {
    const owns = spreads(grid, truth, light.number);
    if (owns.every((own) => own === undefined)) return [];
    const bits = withinBits(light.columns, owns, 1);
    const [missed, taken] = [new Uint32Array(2 ** features.length), new Uint32Array(2 ** features.length)];
    for (let i = 0; i < bits.length; i++) (light.truth[i] === truth ? missed : taken)[bits[i]]++;
    const own = missed.reduce((a, b) => a + b, 0);
    return [{ missed, taken, own }];
  });
  return (set) =>
    folds.reduce((sum, { missed, taken, own }) => sum + withinSet(taken, set) + own - withinSet(missed, set), 0);
}
