import { hueAhead, wrapHue } from "../colour";
import type { TargetId } from "../names";
import { FEATURE_FACTS, type Feature, figure, isCamera, shownValue, valueShownAs } from "../readings";
import {
  type BoundPlace,
  type Change,
  classify,
  classifyBlock,
  placeOfTest,
  type Rule,
  type RuleSet,
  setBound,
  type Target,
  type Test,
} from "../rules";
import { type MarkedTape, partOf, referencesFromMarks, timeOf } from "../teaching";
import { FAR_TARGET } from "../world";
import { byLight, type Finding, type FindingKind, type FindingScene, nameOf } from "./finding";

/** Readings, as places on tapes. */
type Readings = { tape: MarkedTape; index: number }[];

/** A share of wrong readings that counts however they are strewn. */
const MANY = 0.01;

/**
 * A background's readings are taken for a target. It is an error where the robot will answer it: where the steadying
 * sees enough of them together, or where they are many.
 */
export const backgroundTaken: FindingKind = {
  code: "background-taken",
  find(scene) {
    const { project } = scene;
    return project.ruleSets.flatMap((ruleSet) =>
      ruleSet.method === "bands" ? byBands(scene, ruleSet) : byReference(scene, ruleSet),
    );
  },
};

function byBands(scene: FindingScene, ruleSet: RuleSet): Finding[] {
  const { project } = scene;
  const ground = new Map(project.targets.map((t) => [t.id, t.kind === "background"]));
  const labels = scene.ruleLabels(ruleSet);
  const tapes = scene.tapesOf(ruleSet.id);
  return project.targets.flatMap((background, b) => {
    if (background.kind !== "background") return [];
    const wrongBy = new Map<Rule, Readings>();
    tapes.forEach((tape, k) => {
      for (let index = 0; index < tape.truth.length; index++) {
        if (tape.truth[index] !== b + 1 || labels[k][index] === 0) continue;
        const rule = ruleSet.rules[labels[k][index] - 1];
        if (ground.get(rule.target) !== false) continue;
        const wrong = wrongBy.get(rule);
        if (wrong) wrong.push({ tape, index });
        else wrongBy.set(rule, [{ tape, index }]);
      }
    });
    const marked = scene.marked(ruleSet.id)[b];
    return [...wrongBy].map(([rule, wrong]): Finding => {
      const mend = narrowest(scene, ruleSet, rule, wrong);
      const taken = takenFinding(scene, background, rule.target, ruleSet, wrong, marked);
      return {
        ...taken,
        sentence: `${taken.sentence}${mend ? ` ${mend.sentence}` : " No single bound keeps them apart."}`,
        place: {
          stage: "decide",
          ruleSet: ruleSet.id,
          rule: rule.id,
          target: background.id,
          reading: readingOf(wrong[0]),
        },
        ...(mend && { fix: { label: "Apply", change: mend.change } }),
      };
    });
  });
}

const readingOf = ({ tape, index }: Readings[number]) => ({ tape: tape.head.id, t: timeOf(tape, index) });

function takenFinding(
  scene: FindingScene,
  background: Target,
  target: TargetId,
  ruleSet: RuleSet,
  wrong: Readings,
  marked: number,
): Finding {
  const counts = wrong.length >= MANY * marked || everSeen(wrong, ruleSet);
  return {
    code: background.id === FAR_TARGET ? "far-taken" : "background-taken",
    level: counts ? "error" : "hint",
    title: `${background.name} is taken for ${nameOf(scene.project, target)}`,
    sentence: `${wrong.length} of ${marked} readings, ${byLight(scene.project, wrong)}.${counts ? "" : " So few and so far apart are not seen."}`,
    place: { stage: "decide", target: background.id, reading: readingOf(wrong[0]) },
  };
}

/** Tells if enough of these readings follow each other for the steadying to see them; pixels do not follow each other. */
function everSeen(wrong: Readings, { steady: { hits, of } }: RuleSet): boolean {
  return wrong.some(({ tape, index }, i) => {
    const last = wrong[i + hits - 1];
    return !isCamera(tape.sensor) && last?.tape === tape && last.index - index < of;
  });
}

/** By the nearest method a reference of the background's own draws its readings to itself. */
function byReference(scene: FindingScene, ruleSet: RuleSet): Finding[] {
  const { project } = scene;
  const ids = project.targets.map((t) => t.id);
  return project.targets.flatMap((background, b) => {
    if (background.kind !== "background" || scene.marked(ruleSet.id)[b] === 0) return [];
    const wrongBy = new Map<TargetId, Readings>();
    for (const tape of scene.tapesOf(ruleSet.id)) {
      const labels = classifyBlock(ruleSet, tape.block, ids);
      for (let index = 0; index < labels.length; index++) {
        const taken = project.targets[labels[index] - 1];
        if (tape.truth[index] !== b + 1 || taken === undefined || taken.kind === "background") continue;
        const wrong = wrongBy.get(taken.id);
        if (wrong) wrong.push({ tape, index });
        else wrongBy.set(taken.id, [{ tape, index }]);
      }
    }
    return [...wrongBy].map(([target, wrong]): Finding => {
      const marked = scene.marked(ruleSet.id)[b];
      const found = takenFinding(scene, background, target, ruleSet, wrong, marked);
      const own = referencesFromMarks(
        partOf(scene.sample(ruleSet.id), (i) => scene.sample(ruleSet.id).truth[i] === b + 1),
      );
      if (ruleSet.nearest.references.some((r) => r.target === background.id)) return found;
      return {
        ...found,
        sentence: `${found.sentence} It has no reference of its own; with one for each light its readings are drawn to it.`,
        fix: {
          label: "Add references",
          change: { ruleSet: ruleSet.id, references: [...ruleSet.nearest.references, ...own] },
        },
      };
    });
  });
}

/** The one bound which, drawn in, turns away every wrong reading and loses the fewest right ones. */
function narrowest(
  scene: FindingScene,
  ruleSet: RuleSet,
  rule: Rule,
  wrong: Readings,
): { sentence: string; change: Change } | undefined {
  const own = ruleSet.rules.indexOf(rule) + 1;
  const truth = scene.project.targets.findIndex((t) => t.id === rule.target) + 1;
  const labels = scene.ruleLabels(ruleSet);
  // The target's readings that this rule takes, and so may lose.
  const right: Readings = [];
  scene.tapesOf(ruleSet.id).forEach((tape, k) => {
    for (let index = 0; index < tape.truth.length; index++)
      if (tape.truth[index] === truth && labels[k][index] === own) right.push({ tape, index });
  });
  const takenBy = (rules: RuleSet, readings: Readings) =>
    readings.filter(({ tape, index }) => classify(rules, tape.block.at(index)) === rule.target);
  let best: { place: BoundPlace; test: Test; value: number; lost: number; gap: number } | undefined;
  rule.any.forEach((clause) => {
    clause.all.forEach((test, t) => {
      if (test.not) return;
      for (const end of ["from", "to"] as const) {
        const cut = cutBetween(test, end, wrong, right);
        if (cut === undefined) continue;
        const place: BoundPlace = { rule: rule.id, clause: clause.id, ...placeOfTest(clause.all, t), end };
        const changed = setBound(ruleSet, place, cut.value);
        if (takenBy(changed, wrong).length > 0) continue;
        const lost = cut.cutOff.length - takenBy(changed, cut.cutOff).length;
        if (best === undefined || lost < best.lost || (lost === best.lost && cut.gap > best.gap))
          best = { place, test, value: cut.value, gap: cut.gap, lost };
      }
    });
  });
  // A cut that costs the target as many readings as it turns away is no mend.
  if (best === undefined || best.lost >= Math.min(wrong.length, Math.max(1, right.length / 2))) return undefined;
  const { place, test, value, lost } = best;
  const verb = place.end === "from" ? "Raising the minimum" : "Lowering the maximum";
  const name = nameOf(scene.project, rule.target);
  const price = lost === 0 ? `loses no reading of ${name}` : `loses ${lost} of ${right.length} readings of ${name}`;
  return {
    sentence: `${verb} ${FEATURE_FACTS[test.feature].word} to ${figure(test.feature, value)} turns them all away and ${price}.`,
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
  wrong: Readings,
  right: Readings,
): { value: number; gap: number; cutOff: Readings } | undefined {
  const { feature } = test;
  const edge = test[end] ?? (feature === "hue" ? undefined : end === "from" ? 0 : FEATURE_FACTS[feature].max);
  if (edge === undefined) return undefined;
  const { inwards, back } = fromEdge(feature, end, edge);
  const columns = new Map<MarkedTape, Float64Array>();
  const columnOf = (tape: MarkedTape) => {
    const known = columns.get(tape) ?? tape.block.column(feature);
    columns.set(tape, known);
    return known;
  };
  const depth = ({ tape, index }: Readings[number]) => inwards(columnOf(tape)[index]);
  let farthest = Number.NEGATIVE_INFINITY;
  for (const reading of wrong) farthest = Math.max(farthest, depth(reading));
  let nearest = Number.POSITIVE_INFINITY;
  const cutOff: Readings = [];
  for (const reading of right) {
    const distance = depth(reading);
    if (distance <= farthest) cutOff.push(reading);
    else if (distance < nearest) nearest = distance;
  }
  if (!(farthest >= 0) || nearest === Number.POSITIVE_INFINITY) return undefined;
  const gap = nearest - farthest;
  // A round figure that lies between the two is easier to read than the middle.
  for (const digits of [0, 1, 2]) {
    const shown = Number(shownValue(feature, back((farthest + nearest) / 2)).toFixed(digits));
    const round = valueShownAs(feature, shown);
    if (inwards(round) > farthest && inwards(round) <= nearest) return { value: round, gap, cutOff };
  }
  return { value: back((farthest + nearest) / 2), gap, cutOff };
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
