import { hueAhead, wrapHue } from "../colour";
import type { RuleSetId } from "../names";
import { FEATURE_FACTS, figure, shownValue, valueShownAs } from "../readings";
import { type Clause, placeOfTest, type Rule, type Test, testHolds } from "../rules";
import type { Spread } from "../teaching";
import { bandSets, type Finding, type FindingKind, type FindingScene } from "./finding";

/** A bound is loose where it lies farther out than so many times the spread, and than this share of the span. */
const TIMES = 2;
const SHARE = 0.25;

/** A band that reaches farther beyond its target's readings than twice their spread: room for what is not the target. */
export const bandLoose: FindingKind = {
  code: "band-loose",
  find(scene) {
    return bandSets(scene).flatMap((set) =>
      set.rules
        .filter((rule) => rule.on)
        .flatMap((rule) =>
          rule.any.flatMap((clause) =>
            clause.all.flatMap((test, i) => (test.not ? [] : looseEnds(scene, set.id, rule, clause, i))),
          ),
        ),
    );
  },
};

function looseEnds(scene: FindingScene, set: RuleSetId, rule: Rule, clause: Clause, at: number): Finding[] {
  const test = clause.all[at];
  const { feature } = test;
  const spread = scene.spread(set, rule.target, feature);
  const target = scene.project.targets.find((t) => t.id === rule.target);
  if (spread === undefined || target === undefined || spread.count < 20) return [];
  // Bounds are loose around readings that lie between them; a band that misses them is wrong, not loose.
  if (!testHolds(test, spread.low) || !testHolds(test, spread.high)) return [];
  const { span, word } = FEATURE_FACTS[feature];
  const width = feature === "hue" ? hueAhead(spread.min, spread.max) : spread.max - spread.min;
  return (["from", "to"] as const).flatMap((end): Finding[] => {
    const bound = test[end];
    const out = bound === undefined ? 0 : distanceOut(feature === "hue", end, bound, spread);
    if (bound === undefined || out <= TIMES * width || out <= SHARE * span) return [];
    const reach = Math.max(width, 0.05 * span);
    const value = nearer(feature, end, spread, reach);
    const edge = figure(feature, rounded(feature, end === "from" ? spread.min : spread.max));
    return [
      {
        code: "band-loose",
        level: "hint",
        title: `${target.name}’s ${word} band reaches far beyond its readings`,
        sentence: `It ${end === "from" ? "begins" : "ends"} at ${figure(feature, bound)}; the readings ${end === "from" ? "begin" : "end"} at ${edge}, and their whole spread is ${figure(feature, rounded(feature, width))}. What is not marked may lie in between. ${figure(feature, value)} leaves room enough.`,
        place: {
          stage: "decide",
          ruleSet: set,
          rule: rule.id,
          target: rule.target,
          about: `${rule.any.indexOf(clause)} ${at} ${end}`,
        },
        fix: {
          label: "Tighten",
          change: {
            ruleSet: set,
            place: { rule: rule.id, clause: clause.id, ...placeOfTest(clause.all, at), end },
            value,
          },
        },
      },
    ];
  });
}

function distanceOut(hue: boolean, end: "from" | "to", bound: number, { min, max }: Spread): number {
  if (!hue) return end === "from" ? min - bound : bound - max;
  // A bound inside the readings would seem a whole turn away.
  const out = end === "from" ? hueAhead(bound, min) : hueAhead(max, bound);
  return out > 300 ? 0 : out;
}

const rounded = (feature: Test["feature"], value: number) =>
  valueShownAs(feature, Math.round(shownValue(feature, value)));

function nearer(feature: Test["feature"], end: "from" | "to", { min, max }: Spread, reach: number): number {
  const value = end === "from" ? min - reach : max + reach;
  if (feature === "hue") return wrapHue(Math.round(value));
  return rounded(feature, Math.max(0, Math.min(FEATURE_FACTS[feature].max, value)));
}
