import { type TargetId, UNKNOWN, type Unknown } from "../names";
import { type Features, featureValue } from "../readings";
import { testHolds, testMargin } from "./band";
import { NearestRules } from "./nearest";
import type { Rule, RuleSet } from "./ruleSetSchema";

/** What one reading is taken for. */
export type Label = TargetId | Unknown;

/** Whether a rule matches: all tests of any of its clauses hold. */
export function ruleMatches(rule: Rule, features: Features): boolean {
  // Loops, since this is asked of every reading of a run.
  for (let c = 0; c < rule.any.length; c++) {
    const { all } = rule.any[c];
    let holds = true;
    for (let i = 0; holds && i < all.length; i++) holds = testHolds(all[i], featureValue(features, all[i].feature));
    if (holds) return true;
  }
  return false;
}

/** A clause has the minimum of its tests' margins, a rule the maximum of its clauses; none at all gives −1. */
export function ruleMargin(rule: Rule, features: Features): number {
  let best = -1;
  for (const clause of rule.any) {
    let least = 1;
    for (const test of clause.all) least = Math.min(least, testMargin(test, features[test.feature]));
    best = Math.max(best, least);
  }
  return best;
}

/** The index of the first rule that is on and matches, or −1. */
export function firstMatch(ruleSet: RuleSet, features: Features): number {
  const { rules } = ruleSet;
  for (let i = 0; i < rules.length; i++) if (rules[i].on && ruleMatches(rules[i], features)) return i;
  return -1;
}

/** The label of one reading: the target of the first rule that is on and matches, or of the nearest reference. */
export function classify(ruleSet: RuleSet, features: Features): Label {
  if (ruleSet.method === "nearest") return new NearestRules(ruleSet.nearest).classify(features);
  const match = firstMatch(ruleSet, features);
  return match < 0 ? UNKNOWN : ruleSet.rules[match].target;
}

/**
 * How far the label is from flipping, −1..1: the smaller of its rule's margin and of how far each earlier rule is
 * from matching; for unknown, how far the closest rule is from matching (1 where there is none). By the nearest
 * method as `NearestRules` says.
 */
export function labelMargin(ruleSet: RuleSet, features: Features): number {
  if (ruleSet.method === "nearest") return new NearestRules(ruleSet.nearest).margin(features);
  const match = firstMatch(ruleSet, features);
  let margin = match < 0 ? 1 : ruleMargin(ruleSet.rules[match], features);
  const rivals = match < 0 ? ruleSet.rules.length : match;
  for (let i = 0; i < rivals; i++) {
    if (ruleSet.rules[i].on) margin = Math.min(margin, -ruleMargin(ruleSet.rules[i], features));
  }
  return margin || 0;
}

/**
 * Gives a function of how clearly a reading is of one target, −1..1; positive where it is taken for it by that target's
 * own rules or references, whatever earlier rules say. −1 without any.
 */
export function clarityOf(ruleSet: RuleSet): (features: Features, target: TargetId) => number {
  if (ruleSet.method === "nearest") {
    const nearest = new NearestRules(ruleSet.nearest);
    return (features, target) => nearest.marginOf(features, target);
  }
  return (features, target) => {
    let best = -1;
    for (const rule of ruleSet.rules)
      if (rule.on && rule.target === target) best = Math.max(best, ruleMargin(rule, features));
    return best;
  };
}
