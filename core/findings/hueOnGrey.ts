import { valueShownAs } from "../readings";
import type { Rule, RuleSet, Target } from "../rules";
import { bandSets, type FindingKind, type FindingScene, nameOf } from "./finding";

/** Below this saturation noise turns the hue about. */
const UNSTABLE_BELOW = 0.15;

/** A smaller share of a grey thing's readings is what steadying is for. */
const SHARE = 0.02;

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
        hueAlone(ruleSet, spread.high).flatMap(({ rule, clause }) => {
          if (rule.target === target.id || takes(scene, ruleSet, rule, target) < SHARE) return [];
          const floor = Math.min(95, Math.ceil(spread.high * 100) + 5);
          return [
            {
              code: "hue-on-grey" as const,
              level: "warning" as const,
              title: `${target.name} has no stable hue`,
              sentence: `Its saturation is ${Math.round(spread.mean * 100)} %, and 95 % of it lie under ${Math.round(spread.high * 100)} %; the rule for ${nameOf(project, rule.target)} tests hue and lets it through. Ask for saturation of at least ${floor} %.`,
              place: {
                stage: "decide" as const,
                ruleSet: ruleSet.id,
                rule: rule.id,
                target: target.id,
                about: String(clause),
              },
              fix: {
                label: "Apply",
                change: {
                  ruleSet: ruleSet.id,
                  rule: rule.id,
                  clause,
                  add: { feature: "sat" as const, from: valueShownAs("sat", floor) },
                },
              },
            },
          ];
        }),
      );
    });
  },
};

/** The share of a target's marked readings that a rule takes. */
function takes(scene: FindingScene, set: RuleSet, rule: Rule, target: Target): number {
  const own = set.rules.indexOf(rule) + 1;
  const truth = scene.project.targets.indexOf(target) + 1;
  let [n, taken] = [0, 0];
  scene.tapesOf(set.id).forEach((tape, k) => {
    const labels = scene.ruleLabels(set)[k];
    for (let i = 0; i < labels.length; i++) {
      if (tape.truth[i] !== truth) continue;
      n++;
      if (labels[i] === own) taken++;
    }
  });
  return n === 0 ? 0 : taken / n;
}

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
