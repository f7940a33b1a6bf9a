import { factsOf } from "../behaviour";
import type { FindingKind } from "./finding";
import { stepLists, unfolded } from "./stepsOf";
import { targetsNamed } from "./targetsNamed";

/** A target that is recognised and then nothing is done about. */
export const targetWithoutResponse: FindingKind = {
  code: "target-without-response",
  find({ project: { behaviour, ruleSets, sensors, targets } }) {
    // A step that says the name of any target answers them all.
    if (stepLists(behaviour).some(({ steps }) => unfolded(behaviour, steps).some((step) => factsOf(step).saysSeen)))
      return [];
    const ruled = new Set(
      ruleSets.flatMap((set) =>
        set.method === "nearest"
          ? set.nearest.references.map((r) => r.target)
          : set.rules.filter((r) => r.on).map((r) => r.target),
      ),
    );
    const coded = new Set(sensors.flatMap((s) => Object.values(s.codes ?? {})));
    const answered = targetsNamed(behaviour);
    return targets
      .filter((t) => t.kind !== "background" && (ruled.has(t.id) || coded.has(t.id)) && !answered.has(t.id))
      .map((target) => {
        const known = ruled.has(target.id) ? "rule" : "code";
        return {
          code: "target-without-response" as const,
          level: "hint" as const,
          title: `Nothing answers ${target.name}`,
          sentence: `It has a ${known}, but no response and no condition names it. Give it a response, or leave its ${known} out.`,
          place: { stage: "act" as const, target: target.id },
        };
      });
  },
};
