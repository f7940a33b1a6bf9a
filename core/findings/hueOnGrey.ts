import { valueShownAs } from "../readings";
import type { Rule, RuleSet } from "../rules";
import { bandSets, type FindingKind, nameOf } from "./finding";

/** Below this saturation noise turns the hue about. */
const UNSTABLE_BELOW = 0.15;

/** A rule tests hue and lets grey through: slate has any hue at all. */
export const hueOnGrey: FindingKind = {
  code: "hue-on-grey",
  find(scene) {
    const { project } = scene;
    return bandSets(scene).flatMap((ruleSet) => {
      const greys = project.targets.flatMap((target) => {
        const spread = scene.spread(ruleSet.id, target.id, "sat");
        return spread !== undefined && spread.mean < UNSTABLE_BELOW ? [{ target, spread }] : [];
      });
      return greys.flatMap(({ target, spread }) =>
        hueAlone(ruleSet, spread.high).map(({ rule, clause }) => {
          const floor = Math.min(95, Math.ceil(spread.high * 100) + 5);
          return {
            code: "hue-on-grey" as const,
            level: "warning" as const,
            title: `${target.name} has no stable hue`,
            sentence: `Its saturation is ${Math.round(spread.mean * 100)} %, and 95 % of it lie under ${Math.round(spread.high * 100)} %; the rule for ${nameOf(project, rule.target)} tests hue and lets it through. Ask for saturation of at least ${floor} %.`,
            place: { stage: "decide" as const, rule: rule.id, target: target.id },
            fix: {
              label: "Apply",
              change: {
                ruleSet: ruleSet.id,
                rule: rule.id,
                clause,
                add: { feature: "sat" as const, from: valueShownAs("sat", floor) },
              },
            },
          };
        }),
      );
    });
  },
};

/** Clauses that test hue and neither saturation nor chroma from below. */
function hueAlone(ruleSet: RuleSet, greySat: number): { rule: Rule; clause: number }[] {
  return ruleSet.rules
    .filter((rule) => rule.on)
    .flatMap((rule) =>
      rule.any.flatMap(({ all }, clause) => {
        const testsHue = all.some((t) => t.feature === "hue" && !t.not);
        const guarded = all.some(
          (t) => (t.feature === "sat" && (t.from ?? 0) > greySat) || (t.feature === "chroma" && (t.from ?? 0) > 0),
        );
        return testsHue && !guarded ? [{ rule, clause }] : [];
      }),
    );
}
