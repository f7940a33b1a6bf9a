import { exactShown, FEATURE_FACTS, figure } from "@perceptum/core/readings";
import type { Rule, Test } from "@perceptum/core/rules";

/** `hue 350–16°`, `sat ≥ 60 %`, `not val ≤ 20 %`. */
export function testShort({ feature, from, to, not }: Test): string {
  const { unit } = FEATURE_FACTS[feature];
  const end = unit === "%" ? " %" : unit;
  const band =
    from !== undefined && to !== undefined
      ? `${feature} ${exactShown(feature, from)}–${exactShown(feature, to)}${end}`
      : from !== undefined
        ? `${feature} ≥ ${figure(feature, from)}`
        : to !== undefined
          ? `${feature} ≤ ${figure(feature, to)}`
          : `${feature} any`;
  return not ? `not ${band}` : band;
}

/** All tests of a rule on one line. */
export function ruleShort(rule: Rule): string {
  if (rule.any.length === 0) return "never";
  return rule.any.map((clause) => clause.all.map(testShort).join(" · ") || "always").join(" or ");
}

function testWords({ feature, from, to, not }: Test): string {
  const name = FEATURE_FACTS[feature].word;
  const through = feature === "hue" && from !== undefined && to !== undefined && from > to ? " through 0°" : "";
  const band =
    from !== undefined && to !== undefined
      ? `from ${figure(feature, from)}${through} to ${figure(feature, to)}`
      : from !== undefined
        ? `at least ${figure(feature, from)}`
        : to !== undefined
          ? `at most ${figure(feature, to)}`
          : "known at all";
  return `${name} is ${not ? "not " : ""}${band}`;
}

/** The rule as a sentence. */
export function ruleSentence(rule: Rule, name: string): string {
  if (rule.any.length === 0) return `Nothing is taken for ${name}.`;
  const clauses = rule.any.map(({ all }) => {
    if (all.length === 0) return "always";
    const words = all.map(testWords);
    const last = words.pop();
    return words.length === 0 ? last : `${words.join(", ")} and ${last}`;
  });
  return `A reading is taken for ${name} when its ${clauses.join(", or when its ")}.`;
}
