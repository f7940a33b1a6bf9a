import { hueAhead, wrapHue } from "../colour";
import type { Rule, RuleSet, Test } from "../project/schema";
import { exactShown, FEATURE_FACTS, type Feature, shownValue, valueShownAs } from "../readings";
import { type BoundPlace, type Change, classifyBlock, firstMatch, type Labels, setBound } from "../rules";
import type { MarkedTape } from "../teaching";
import { byLight, type Finding, type FindingKind, type FindingScene, nameOf, tapesOf } from "./finding";

/** Readings, as places on tapes. */
type Readings = { tape: MarkedTape; index: number }[];

/** A background's readings match a target's rule: the robot will answer the floor. */
export const backgroundTaken: FindingKind = {
  code: "background-taken",
  find(scene) {
    const { project } = scene;
    const grounds = project.targets.map((t) => t.kind === "background");
    return project.ruleSets.flatMap((ruleSet) => {
      const judge = judgeOf(scene, ruleSet);
      const labels = judge.labels(ruleSet);
      return project.targets.flatMap((background, b) => {
        if (!grounds[b]) return [];
        let marked = 0;
        const wrongBy = new Map<Rule, Readings>();
        judge.tapes.forEach((tape, k) => {
          for (let index = 0; index < tape.truth.length; index++) {
            if (tape.truth[index] !== b + 1) continue;
            marked++;
            const label = labels[k][index];
            if (label === 0 || grounds[label - 1]) continue;
            const rule = ruleSet.rules[firstMatch(ruleSet, tape.block.at(index))];
            const wrong = wrongBy.get(rule);
            if (wrong) wrong.push({ tape, index });
            else wrongBy.set(rule, [{ tape, index }]);
          }
        });
        return [...wrongBy].map(([rule, wrong]): Finding => {
          const [first] = wrong;
          const mend = narrowest(scene, judge, ruleSet, rule, wrong, labels);
          return {
            code: "background-taken",
            level: "error",
            title: `${background.name} is taken for ${nameOf(project, rule.target)}`,
            sentence: `${wrong.length} of ${marked} readings, ${byLight(project, wrong)}.${mend ? ` ${mend.sentence}` : " No single bound keeps them apart."}`,
            place: {
              stage: "decide",
              rule: rule.id,
              target: background.id,
              reading: { tape: first.tape.head.id, t: first.tape.block.t[first.index] },
            },
            ...(mend && { fix: { label: "Apply", change: mend.change } }),
          };
        });
      });
    });
  },
};

/** Judges the tapes of a rule set by any variant of it. */
function judgeOf(scene: FindingScene, ruleSet: RuleSet) {
  const tapes = tapesOf(scene, ruleSet.id);
  const targets = scene.project.targets.map((t) => t.id);
  return {
    tapes,
    targets,
    labels: (rules: RuleSet): Labels[] => tapes.map(({ block }) => classifyBlock(rules, block, targets)),
  };
}

/** The one bound which, drawn in, turns away every wrong reading and loses the fewest right ones. */
function narrowest(
  scene: FindingScene,
  judge: ReturnType<typeof judgeOf>,
  ruleSet: RuleSet,
  rule: Rule,
  wrong: Readings,
  labels: readonly Labels[],
): { sentence: string; change: Change } | undefined {
  const own = judge.targets.indexOf(rule.target) + 1;
  /** How many of the target's own readings have its label. */
  const rightBy = (judged: readonly Labels[]) =>
    judge.tapes.reduce(
      (sum, { truth }, k) => sum + truth.reduce((n, t, i) => n + (t === own && judged[k][i] === own ? 1 : 0), 0),
      0,
    );
  const right = rightBy(labels);
  let best: { place: BoundPlace; test: Test; value: number; lost: number; gap: number } | undefined;
  rule.any.forEach((clause, c) => {
    clause.all.forEach((test, t) => {
      if (test.not) return;
      for (const end of ["from", "to"] as const) {
        const cut = cutBetween(test, end, judge.tapes, wrong, labels, own);
        if (cut === undefined) continue;
        const place: BoundPlace = { rule: rule.id, clause: c, test: t, end };
        const judged = judge.labels(setBound(ruleSet, place, cut.value));
        if (wrong.some(({ tape, index }) => judged[judge.tapes.indexOf(tape)][index] === own)) continue;
        const lost = right - rightBy(judged);
        if (best === undefined || lost < best.lost || (lost === best.lost && cut.gap > best.gap))
          best = { place, test, ...cut, lost };
      }
    });
  });
  // A cut that costs the target more readings than it turns away is no mend.
  if (best === undefined || best.lost >= Math.max(1, right / 2)) return undefined;
  const { place, test, value, lost } = best;
  const { unit } = FEATURE_FACTS[test.feature];
  const verb = place.end === "from" ? "Raising the lower" : "Lowering the upper";
  const figure = `${exactShown(test.feature, value)}${unit === "%" ? " %" : unit}`;
  const name = nameOf(scene.project, rule.target);
  const price = lost === 0 ? `loses no reading of ${name}` : `loses ${lost} of ${right} readings of ${name}`;
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
  tapes: readonly MarkedTape[],
  wrong: Readings,
  labels: readonly Labels[],
  own: number,
): { value: number; gap: number } | undefined {
  const { feature } = test;
  const edge = test[end] ?? (feature === "hue" ? undefined : end === "from" ? 0 : FEATURE_FACTS[feature].max);
  if (edge === undefined) return undefined;
  const { inwards, back } = fromEdge(feature, end, edge);
  let farthest = Number.NEGATIVE_INFINITY;
  for (const { tape, index } of wrong) farthest = Math.max(farthest, inwards(tape.block.column(feature)[index]));
  let nearest = Number.POSITIVE_INFINITY;
  tapes.forEach(({ truth, block }, k) => {
    const column = block.column(feature);
    for (let i = 0; i < truth.length; i++) {
      if (truth[i] !== own || labels[k][i] !== own) continue;
      const distance = inwards(column[i]);
      if (distance > farthest && distance < nearest) nearest = distance;
    }
  });
  if (!(farthest >= 0) || nearest === Number.POSITIVE_INFINITY) return undefined;
  const gap = nearest - farthest;
  // A round figure that lies between the two is easier to read than the middle.
  for (const digits of [0, 1, 2]) {
    const shown = Number(shownValue(feature, back((farthest + nearest) / 2)).toFixed(digits));
    const round = valueShownAs(feature, shown);
    if (inwards(round) > farthest && inwards(round) <= nearest) return { value: round, gap };
  }
  return { value: back((farthest + nearest) / 2), gap };
}

/** Distances from a band's end into the band, and back to values. */
function fromEdge(feature: Feature, end: "from" | "to", edge: number) {
  const sign = end === "from" ? 1 : -1;
  if (feature !== "hue") return { inwards: (v: number) => sign * (v - edge), back: (d: number) => edge + sign * d };
  return {
    inwards: (v: number) => (end === "from" ? hueAhead(edge, v) : hueAhead(v, edge)),
    back: (d: number) => wrapHue(edge + sign * d),
  };
}
