import type { LightId, RuleSetId } from "../names";
import { type Features, NO_FEATURES } from "../readings";
import { classify, type Rule, type RuleSet } from "../rules";
import { nearestFromMarks } from "./references";
import { lightsIn, partOf, type Sample } from "./sample";
import { type Suggestion, suggest } from "./suggest";

/** How rules do in one light that they were not made from. */
export interface LightTrial {
  light: LightId | undefined;
  readings: number;
  right: number;
  /** Readings of targets that were given no label. */
  missed: number;
  /** Readings of targets that were given the label of another. */
  confused: number;
  /** Readings of backgrounds that were taken for a target. */
  grounds: number;
}

/**
 * Validates the suggestion light by light: rules are made from all lights but one and tried on that one. With fewer
 * than two lights there is nothing to validate.
 */
export function leaveOneLightOut(sample: Sample): LightTrial[] {
  const lights = lightsIn(sample);
  if (lights.length < 2) return [];
  return lights.map((light) => {
    const rules = suggest(partOf(sample, (i) => sample.light[i] !== light)).rules.map((r) => r.rule);
    return {
      light: sample.lights[light - 1]?.id,
      ...tryRules(
        partOf(sample, (i) => sample.light[i] === light),
        rules,
      ),
    };
  });
}

const TRIAL: RuleSet = {
  id: "trial" as RuleSetId,
  name: "trial",
  method: "bands",
  rules: [],
  nearest: { references: [], reject: 1 },
  steady: { hits: 1, of: 1, release: 1, rejoinMs: 0 },
};

/** The same for the nearest method: references are made from all lights but one and tried on that one. */
export function nearestLeftOut(sample: Sample): LightTrial[] {
  const lights = lightsIn(sample);
  return (lights.length < 2 ? [] : lights).map((light) => ({
    light: sample.lights[light - 1]?.id,
    ...tryNearest(
      partOf(sample, (i) => sample.light[i] === light),
      partOf(sample, (i) => sample.light[i] !== light),
    ),
  }));
}

/** Bands and nearest references compared, and which of them is taken where both can be had. */
export interface MethodsCompared {
  /** Shares judged rightly: in lights that were left out, or of what is marked where there is one light alone. */
  bands: number;
  nearest: number;
  leftOut: boolean;
  better: "bands" | "nearest";
}

/** References are taken where they do better by so much. Bands are easier to read, and keep out what nobody marked. */
const CLEARLY = 0.005;

/** Compares the methods, given the trials of the bands light by light. */
export function compareMethods(
  sample: Sample,
  { rules }: Pick<Suggestion, "rules">,
  trials: readonly LightTrial[],
): MethodsCompared {
  const leftOut = trials.length > 0;
  const share = ({ right, readings }: Omit<LightTrial, "light">) => right / readings;
  const bands = leftOut
    ? shareOfTrials(trials)
    : share(
        tryRules(
          sample,
          rules.map((r) => r.rule),
        ),
      );
  const nearest = leftOut ? shareOfTrials(nearestLeftOut(sample)) : share(tryNearest(sample, sample));
  return { bands, nearest, leftOut, better: nearest > bands + CLEARLY ? "nearest" : "bands" };
}

/** Of trials in several lights, the share judged rightly; NaN where there was none. */
export function shareOfTrials(trials: readonly LightTrial[]): number {
  const sum = (of: (trial: LightTrial) => number) => trials.reduce((n, trial) => n + of(trial), 0);
  return sum((t) => t.right) / sum((t) => t.readings);
}

/** Judges a sample by rules. */
export const tryRules = (sample: Sample, rules: Rule[]): Omit<LightTrial, "light"> =>
  trySet(sample, { ...TRIAL, rules });

/** Judges a sample by the nearest of references that were made of another. */
export const tryNearest = (sample: Sample, made: Sample): Omit<LightTrial, "light"> =>
  trySet(sample, nearestFromMarks(TRIAL, made));

/** Judges a sample by a rule set. */
function trySet(sample: Sample, set: RuleSet): Omit<LightTrial, "light"> {
  const trial = { readings: sample.count, right: 0, missed: 0, confused: 0, grounds: 0 };
  // Only what is tested is looked up, one reading at a time.
  let index = 0;
  const features = Object.defineProperties(
    { ...NO_FEATURES },
    Object.fromEntries(
      sample.features.map((feature) => {
        const column = sample.column(feature);
        return [feature, { get: () => column[index] }];
      }),
    ),
  ) as Features;
  const isGround = new Map(sample.targets.map((t) => [t.id as string, t.kind === "background"]));
  for (index = 0; index < sample.count; index++) {
    const target = sample.targets[sample.truth[index] - 1];
    const label = classify(set, features);
    const ground = label === "unknown" || isGround.get(label) === true;
    if (target.kind === "background") {
      if (ground) trial.right++;
      else trial.grounds++;
    } else if (label === target.id) trial.right++;
    else if (ground) trial.missed++;
    else trial.confused++;
  }
  return trial;
}
