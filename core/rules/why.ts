import { nextFloat } from "../arithmetic";
import { hueDistance } from "../colour";
import { UNKNOWN } from "../names";
import { FEATURE_FACTS, type Features } from "../readings";
import { testHolds, testMargin } from "./band";
import { classify, firstMatch, type Label, labelMargin, ruleMargin, ruleMatches } from "./classify";
import { distanceBetween, MOST_REJECT, placeOf, placeOfReference } from "./nearest";
import type { Reference, RuleSet, Test } from "./ruleSetSchema";
import { type BoundPlace, placeOfTest, setBound } from "./setBound";

export interface TestReason {
  test: Test;
  value: number;
  holds: boolean;
  margin: number;
}

export interface RuleReason {
  rule: RuleSet["rules"][number];
  matches: boolean;
  margin: number;
  clauses: TestReason[][];
}

/** One reference and how far it lies from the reading. */
export interface ReferenceReason {
  reference: Reference;
  index: number;
  distance: number;
}

/** Moving this one bound (or the reject distance) to `value` would make the label `label`. */
export interface SmallestChange<P = BoundPlace | "reject"> {
  place: P;
  value: number;
  label: Label;
  /** How far the bound moves, over the feature's span. */
  cost: number;
}

/** Why a reading has its label. */
export interface Why {
  label: Label;
  margin: number;
  rules: RuleReason[];
  winner: number;
  /** The rule that would have won had the winner not matched; −1 where none would. */
  next: number;
  /** By the nearest method: every reference that can be compared, the nearest first. */
  references: ReferenceReason[];
  change: SmallestChange | undefined;
}

/** Every rule's tests with value, margin and whether they held; who won, who was next, and the smallest change. */
export function why(ruleSet: RuleSet, features: Features): Why {
  if (ruleSet.method === "nearest") return whyNearest(ruleSet, features);
  const rules = ruleSet.rules.map(
    (rule): RuleReason => ({
      rule,
      matches: rule.on && ruleMatches(rule, features),
      margin: ruleMargin(rule, features),
      clauses: rule.any.map((clause) =>
        clause.all.map((test) => ({
          test,
          value: features[test.feature],
          holds: testHolds(test, features[test.feature]),
          margin: testMargin(test, features[test.feature]),
        })),
      ),
    }),
  );
  const winner = firstMatch(ruleSet, features);
  return {
    label: classify(ruleSet, features),
    margin: labelMargin(ruleSet, features),
    rules,
    winner,
    next: rules.findIndex((r, i) => r.matches && i !== winner),
    references: [],
    change: smallestChange(ruleSet, features),
  };
}

function whyNearest(ruleSet: RuleSet, features: Features): Why {
  const { reject } = ruleSet.nearest;
  const here = placeOf(features);
  const references = ruleSet.nearest.references
    .map((reference, index) => ({ reference, index, distance: distanceBetween(here, placeOfReference(reference)) }))
    .filter(({ distance }) => distance !== Number.POSITIVE_INFINITY)
    .sort((a, b) => a.distance - b.distance);
  const label = classify(ruleSet, features);
  const [first] = references;
  const value = first === undefined ? 0 : first.distance <= reject ? nextFloat(first.distance, -1) : first.distance;
  const flips = first !== undefined && value > 0 && value <= MOST_REJECT;
  return {
    label,
    margin: labelMargin(ruleSet, features),
    rules: [],
    winner: -1,
    next: -1,
    references,
    change: flips
      ? {
          place: "reject",
          value,
          label: label === UNKNOWN ? first.reference.target : UNKNOWN,
          cost: Math.abs(reject - value),
        }
      : undefined,
  };
}

/**
 * The bound that has to move least to give this reading another label, and where to; undefined where no single bound
 * does it. Every bound is tried: pulled in just past the value, or let out to it.
 */
export function smallestChange(ruleSet: RuleSet, features: Features): SmallestChange<BoundPlace> | undefined {
  const label = classify(ruleSet, features);
  let best: SmallestChange<BoundPlace> | undefined;
  for (const rule of ruleSet.rules) {
    if (!rule.on) continue;
    rule.any.forEach((clause) => {
      clause.all.forEach((test, t) => {
        const x = features[test.feature];
        if (Number.isNaN(x)) return;
        for (const end of ["from", "to"] as const) {
          const bound = test[end];
          if (bound === undefined) continue;
          // Either end may move to the value itself or to the float beyond it, whichever flips the test.
          for (const value of [x, nextFloat(x, 1), nextFloat(x, -1)]) {
            if (value < 0 || value === bound || wrongWay(test, end, value)) continue;
            const place = { rule: rule.id, clause: clause.id, ...placeOfTest(clause.all, t), end };
            const distance = test.feature === "hue" ? hueDistance(bound, value) : Math.abs(bound - value);
            const cost = distance / FEATURE_FACTS[test.feature].span;
            if (best !== undefined && cost >= best.cost) continue;
            const changed = classify(setBound(ruleSet, place, value), features);
            if (changed !== label) best = { place, value, label: changed, cost };
          }
        }
      });
    });
  }
  return best;
}

/** Whether moving this end to `value` would put a band other than hue's the wrong way round. */
function wrongWay(test: Test, end: "from" | "to", value: number): boolean {
  const { from, to } = end === "from" ? { ...test, from: value } : { ...test, to: value };
  return test.feature !== "hue" && from !== undefined && to !== undefined && from > to;
}
