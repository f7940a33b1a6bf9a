import type { Finding, FindingKind } from "./finding";

/** Below this value the sensor's noise is as large as what it measures. */
const DARK = 0.06;

/** A target reads so dark that noise decides its hue. */
export const tooDark: FindingKind = {
  code: "too-dark",
  find({ project, spread }) {
    return project.ruleSets.flatMap((set) =>
      project.targets.flatMap((target): Finding[] => {
        const val = spread(set.id, target.id, "val") ?? spread(set.id, target.id, "reflected");
        if (target.kind === "background" || val === undefined || val.high >= DARK) return [];
        return [
          {
            code: "too-dark",
            level: "warning",
            title: `${target.name} reads too dark`,
            sentence: `95 % of its readings have a value under ${(100 * val.high).toFixed(1)} %, where noise decides the hue. Mount the sensor nearer to its best height, or take white and dark.`,
            place: { stage: "sense", target: target.id },
          },
        ];
      }),
    );
  },
};
