import { valueShownAs } from "../readings";
import { type Clause, type Rule, type RuleSet, type Target, type Test, testHolds } from "../rules";
import { bandSets, type Finding, type FindingKind, type FindingScene, nameOf } from "./finding";

/** Below this saturation noise turns the hue about. */
const UNSTABLE_BELOW = 0.15;

/** A smaller share of a grey thing's readings is what steadying is for. */
const SHARE = 0.02;

/**
 * A rule tests hue and asks for no saturation, where something is grey: grey has any hue at all. A warning where the
 * rule takes it; a hint where its hues reach into the band and only chance has kept them out.
 */
export const hueOnGrey: FindingKind = {
  code: "hue-on-grey",
  find(scene) {
    const { project } = scene;
    return bandSets(scene).flatMap((ruleSet) =>
      project.targets.flatMap((target) => {
        const spread = scene.spread(ruleSet.id, target.id, "sat");
        if (spread === undefined || spread.low >= UNSTABLE_BELOW) return [];
        return hueAlone(ruleSet, spread.high).flatMap(({ rule, clause, band }): Finding[] => {
          if (rule.target === target.id) return [];
          const taken = takes(scene, ruleSet, rule, target) >= SHARE;
          if (taken ? spread.mean >= UNSTABLE_BELOW : !reaches(scene, ruleSet, target, band)) return [];
          const floor = Math.min(95, Math.ceil(spread.high * 100) + 5);
          return [
            {
              code: "hue-on-grey",
              level: taken ? "warning" : "hint",
              title: `${target.name} has no stable hue`,
              sentence: `Its saturation is ${Math.round(spread.mean * 100)} %, and 95 % of it lie under ${Math.round(spread.high * 100)} %; the rule for ${nameOf(project, rule.target)} tests hue and ${taken ? "lets it through" : "nothing else keeps it out: where its hue turns, it is let through"}. Ask for saturation of at least ${floor} %.`,
              place: {
                stage: "decide",
                ruleSet: ruleSet.id,
                rule: rule.id,
                target: target.id,
                about: String(rule.any.indexOf(clause)),
              },
              fix: {
                label: "Apply",
                change: {
                  ruleSet: ruleSet.id,
                  rule: rule.id,
                  clause: clause.id,
                  add: { feature: "sat", from: valueShownAs("sat", floor) },
                },
              },
            },
          ];
        });
      }),
    );
  },
};

/** Tells if the hues of a target, from the first to the last one round the circle, reach into a band. */
function reaches(scene: FindingScene, set: RuleSet, target: Target, band: Test): boolean {
  const hue = scene.spread(set.id, target.id, "hue");
  if (hue === undefined) return false;
  const own: Test = { feature: "hue", from: hue.min, to: hue.max };
  return [band.from, band.to].some((end) => end !== undefined && testHolds(own, end)) || testHolds(band, hue.min);
}

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

/** Clauses that test hue and neither saturation nor chroma from below, with their test of hue. */
function hueAlone(ruleSet: RuleSet, greySat: number): { rule: Rule; clause: Clause; band: Test }[] {
  return ruleSet.rules
    .filter((rule) => rule.on)
    .flatMap((rule) =>
      rule.any.flatMap((clause) => {
        const { all } = clause;
        const band = all.find((t) => t.feature === "hue" && !t.not);
        const guarded = all.some(
          (t) => (t.feature === "sat" && (t.from ?? 0) > greySat) || (t.feature === "chroma" && (t.from ?? 0) > 0),
        );
        return band !== undefined && !guarded ? [{ rule, clause, band }] : [];
      }),
    );
}
