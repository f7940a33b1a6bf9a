import { freeId, numbered, type RuleId, type TargetId } from "../names";
import type { Feature } from "../readings";
import { type Rule, type Target, testHolds } from "../rules";
import { partOf, type Sample } from "./sample";
import { straysOf } from "./strays";
import { bandFor, countPassed, type Ends, endsFor, endsWithin, sentenceFor } from "./suggestBand";
import { type Chosen, chosenOf, type Grid, gridOf, lineOf, type Own, spreads } from "./suggestGrid";

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

/**
 * Suggests bands for every target that is not a background: the fewest features that keep it from everything else in
 * the light of what is marked, also in a light that was left out, in more and less light, and at edges; bounds
 * half-way to the nearest other reading, but not farther beyond the target's own spread than its reach, and open where
 * there is none. Strays of the marks are left out of account.
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

/** A rule tests so many features at most. */
const MOST_FEATURES = 3;
const SINGLE: readonly Feature[] = ["r", "g", "b", "clear"];

/**
 * Every set of at most three of the features that can be tested. A hue is always tested with the saturation: without
 * it, greys are taken whose hue is noise.
 */
function setsOf(features: readonly Feature[], usable: (k: number) => boolean): number[][] {
  const all = features.flatMap((_, k) => (usable(k) ? [k] : []));
  const [hue, sat] = [features.indexOf("hue"), features.indexOf("sat")];
  const sets = all.flatMap((a, i) => [
    [a],
    ...all.slice(i + 1).flatMap((b, j) => [[a, b], ...all.slice(i + j + 2).map((c) => [a, b, c])]),
  ]);
  return sets.filter((set) => set.length <= MOST_FEATURES && (!set.includes(hue) || set.includes(sat) || !usable(sat)));
}

/** Counts the tests of a set as one who reads the rule does: the saturation that goes with a hue is none more. */
function sizeOf(features: readonly Feature[], set: readonly number[]): number {
  const names = set.map((k) => features[k]);
  return names.length - (names.includes("hue") && names.includes("sat") ? 1 : 0);
}

/** A set whose nearest other reading lies a whole spread away, or nearly as far as with any set, is good enough. */
const ENOUGH = 1;
const NEARLY = 0.9;
/** A set costs its wrong readings as a share of the target's own, and so much for each spread that the others are nearer than this. */
const NARROW = 0.4;
const NARROW_COST = 8;
/** Costs that differ by less are the same. */
const SAME_COST = 0.01;

/** A set of features with what its bands cost. */
interface Tried {
  set: readonly number[];
  size: number;
  apart: number;
  cost: number;
  /** Errors on the readings that it was made from, over the target's own. */
  wrong: number;
}

/** Tries a set of features for one target, each with the bands that it would have; undefined where it costs too much. */
function trierOf(
  { features, trials }: Grid,
  truth: number,
): { usable: (k: number) => boolean; attempt: (set: readonly number[], most: number) => Tried | undefined } {
  // The values of each part as they lie on a line, once for all sets.
  const prepared = trials.map(({ made, tried }) => {
    const owns = spreads(features, made, truth);
    return {
      made,
      chosen: owns.map((own, k) => own && chosenOf(own, k, made)),
      tried: tried.map(({ part, weight }) => ({
        weight,
        truth: part.truth,
        lines: owns.map((own, k) => own && lineOf(own, part.columns[k])),
        own: part.truth.reduce((n, t) => n + (t === truth ? 1 : 0), 0),
      })),
    };
  });
  const attempt = (set: readonly number[], most: number): Tried | undefined => {
    let cost = 0;
    let first: { apart: number; wrong: number } | undefined;
    for (const { made, chosen, tried } of prepared) {
      const used = set.flatMap((k) => chosen[k] ?? []);
      // Nothing can be said where nothing of the target was read in the other lights.
      if (used.length < set.length) continue;
      const { ends, apart } = endsFor(made.truth, truth, used);
      if (first === undefined) cost += NARROW_COST * Math.max(0, NARROW - apart);
      for (const { weight, truth: truths, lines, own } of tried) {
        const wrong = wrongOf(
          truths,
          truth,
          used.map(({ k }, n) => ({ line: lines[k] as Float64Array, ends: ends[n] })),
        );
        first ??= { apart, wrong: wrong / own };
        cost += own === 0 ? 0 : (weight * wrong) / own;
        if (cost > most) return undefined;
      }
    }
    return first && { set, size: sizeOf(features, set), cost, ...first };
  };
  return { usable: (k) => prepared[0].chosen[k] !== undefined, attempt };
}

/** Counts the readings that bands miss or take wrongly. */
function wrongOf(truths: Uint8Array, truth: number, bands: readonly { line: Float64Array; ends: Ends }[]): number {
  const out = new Uint8Array(truths.length);
  for (const { line, ends } of bands)
    for (let i = 0; i < out.length; i++) if (!(line[i] >= ends.from && line[i] <= ends.to)) out[i] = 1;
  let wrong = 0;
  for (let i = 0; i < out.length; i++) if ((truths[i] === truth) === (out[i] === 1)) wrong++;
  return wrong;
}

function suggestFor(grid: Grid, truth: number, marked: Uint32Array, id: RuleId) {
  const { sample, features } = grid;
  const target = sample.targets[truth - 1];
  const owns = spreads(features, grid, truth);
  // A feature has to be testable on all readings and on the few that sets are tried on.
  const { usable, attempt } = trierOf(grid, truth);
  const candidates = setsOf(features, (k) => owns[k] !== undefined && usable(k));
  if (candidates.length === 0) return undefined;
  // Single channels move with every change of light, so they serve only where nothing else keeps all apart.
  const single = (set: readonly number[]) => set.some((k) => SINGLE.includes(features[k]));
  const tries = (sets: readonly number[][], known: readonly Tried[]): Tried[] => {
    let least = known.reduce((cost, t) => Math.min(cost, t.cost), Number.POSITIVE_INFINITY);
    return sets.flatMap((set) => {
      const tried = attempt(set, least + SAME_COST);
      least = Math.min(least, tried?.cost ?? least);
      return tried ?? [];
    });
  };
  const steady = tries(
    candidates.filter((set) => !single(set)),
    [],
  );
  const compared = steady.some(({ wrong }) => wrong === 0)
    ? steady
    : [...steady, ...tries(candidates.filter(single), steady)];
  // The fewest features that cost hardly more, and keep the others nearly as far out, as any set does.
  const least = Math.min(...compared.map((c) => c.cost));
  const equals = compared.filter((c) => c.cost <= least + SAME_COST);
  const enough = Math.min(NEARLY * Math.max(...equals.map((c) => c.apart)), ENOUGH);
  const best = equals
    .filter((c) => c.apart >= enough)
    .reduce((x, y) => (y.size < x.size || (y.size === x.size && y.apart > x.apart) ? y : x));
  const chosen = best.set.map((k): Chosen => chosenOf(owns[k] as Own, k, grid));
  const { ends, margin } = endsWithin(grid.truth, truth, chosen);
  // A band that is open at both ends tests nothing.
  const bands = chosen
    .map((c, n) => bandFor(sample, c, ends[n]))
    .filter(({ test }) => test.from !== undefined || test.to !== undefined);
  const tests = bands.map((b) => b.test);
  // It reads all there is, and nothing else is marked: no rule is better than one that takes everything.
  if (tests.length === 0) return undefined;
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
  return {
    rule: {
      rule: { id, target: target.id, on: true, any: numbered("clause", [{ all: tests }]) },
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
