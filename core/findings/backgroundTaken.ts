import { hueAhead } from "../colour";
import type { ProjectDocument, Rule, RuleSet, Test } from "../project/schema";
import { exactShown, FEATURE_FACTS, type Features, shownValue, valueShownAs } from "../readings";
import { type BoundPlace, classify, type RuleChange, ruleMatches, setBound } from "../rules";
import { byLight, type Finding, type FindingKind, type FindingScene, nameOf, readingsOf } from "./finding";

/** A background's readings match a target's rule: the robot will answer the floor. */
export const backgroundTaken: FindingKind = {
  code: "background-taken",
  find(scene) {
    const { project } = scene;
    return project.ruleSets.flatMap((ruleSet) =>
      project.targets
        .filter((t) => t.kind === "background")
        .flatMap((background) => {
          const readings = [...readingsOf(scene, background.id, ruleSet.id)];
          const wrongBy = new Map<Rule, { at: (typeof readings)[number]; features: Features }[]>();
          for (const at of readings) {
            const features = at.tape.block.at(at.index);
            const rule = ruleSet.rules.find((r) => r.on && ruleMatches(r, features));
            if (rule === undefined || isBackground(project, rule)) continue;
            wrongBy.set(rule, [...(wrongBy.get(rule) ?? []), { at, features }]);
          }
          return [...wrongBy].map(([rule, wrong]): Finding => {
            const [first] = wrong;
            const mend = narrowest(
              scene,
              ruleSet,
              rule,
              wrong.map((w) => w.features),
            );
            return {
              code: "background-taken",
              level: "error",
              title: `${background.name} is taken for ${nameOf(project, rule.target)}`,
              sentence: `${wrong.length} of ${readings.length} readings, ${byLight(
                project,
                wrong.map((w) => w.at),
              )}.${mend ? ` ${mend.sentence}` : " No single bound keeps them apart."}`,
              place: {
                stage: "decide",
                rule: rule.id,
                target: background.id,
                reading: { tape: first.at.tape.head.id, t: first.at.tape.block.t[first.at.index] },
              },
              ...(mend && { fix: { label: "Apply", change: mend.change } }),
            };
          });
        }),
    );
  },
};

const isBackground = (project: ProjectDocument, rule: Rule) =>
  project.targets.find((t) => t.id === rule.target)?.kind === "background";

/** The one bound which, drawn in, turns away every wrong reading and loses the fewest right ones. */
function narrowest(
  scene: FindingScene,
  ruleSet: RuleSet,
  rule: Rule,
  wrong: readonly Features[],
): { sentence: string; change: RuleChange } | undefined {
  const own = [...readingsOf(scene, rule.target, ruleSet.id)]
    .map(({ tape, index }) => tape.block.at(index))
    .filter((features) => classify(ruleSet, features) === rule.target);
  let best: { place: BoundPlace; test: Test; value: number; lost: number; gap: number } | undefined;
  rule.any.forEach((clause, c) => {
    clause.all.forEach((test, t) => {
      if (test.not) return;
      for (const end of ["from", "to"] as const) {
        const cut = cutBetween(test, end, wrong, own);
        if (cut === undefined) continue;
        const place: BoundPlace = { rule: rule.id, clause: c, test: t, end };
        const changed = setBound(ruleSet, place, cut.value);
        if (wrong.some((features) => classify(changed, features) === rule.target)) continue;
        const lost = own.filter((features) => classify(changed, features) !== rule.target).length;
        if (best === undefined || lost < best.lost || (lost === best.lost && cut.gap > best.gap))
          best = { place, test, ...cut, lost };
      }
    });
  });
  // A cut that costs the target more readings than it turns away is no mend.
  if (best === undefined || best.lost >= Math.max(1, own.length / 2)) return undefined;
  const { place, test, value, lost } = best;
  const { unit } = FEATURE_FACTS[test.feature];
  const verb = place.end === "from" ? "Raising the lower" : "Lowering the upper";
  const figure = `${exactShown(test.feature, value)}${unit === "%" ? " %" : unit}`;
  const price =
    lost === 0
      ? `loses no reading of ${nameOf(scene.project, rule.target)}`
      : `loses ${lost} of ${own.length} readings of ${nameOf(scene.project, rule.target)}`;
  return {
    sentence: `${verb} ${test.feature} bound to ${figure} turns them all away and ${price}.`,
    change: { ruleSet: ruleSet.id, place, value },
  };
}

/**
 * Where this end of the band would have to lie to leave out every wrong value: half-way to the nearest right one.
 * Distances are taken inwards from the end, round the circle for hue.
 */
function cutBetween(
  test: Test,
  end: "from" | "to",
  wrong: readonly Features[],
  own: readonly Features[],
): { value: number; gap: number } | undefined {
  const { feature } = test;
  const edge = test[end] ?? (feature === "hue" ? undefined : end === "from" ? 0 : FEATURE_FACTS[feature].max);
  if (edge === undefined) return undefined;
  const inwards = (value: number) =>
    feature === "hue"
      ? end === "from"
        ? hueAhead(edge, value)
        : hueAhead(value, edge)
      : end === "from"
        ? value - edge
        : edge - value;
  const farthest = Math.max(...wrong.map((features) => inwards(features[feature])));
  const beyond = own.map((features) => inwards(features[feature])).filter((d) => d > farthest);
  if (!(farthest >= 0) || beyond.length === 0) return undefined;
  const nearest = Math.min(...beyond);
  const back = (d: number) =>
    feature === "hue"
      ? (((end === "from" ? edge + d : edge - d) % 360) + 360) % 360
      : end === "from"
        ? edge + d
        : edge - d;
  // A round figure that lies between the two is easier to read than the middle.
  for (const digits of [0, 1, 2]) {
    const shown = Number(shownValue(feature, back((farthest + nearest) / 2)).toFixed(digits));
    const round = valueShownAs(feature, shown);
    if (inwards(round) > farthest && inwards(round) <= nearest) return { value: round, gap: nearest - farthest };
  }
  return { value: back((farthest + nearest) / 2), gap: nearest - farthest };
}
