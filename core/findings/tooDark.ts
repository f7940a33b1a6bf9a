import type { TargetId } from "../names";
import { type Feature, isCamera, REPORT_KINDS } from "../readings";
import type { RuleSet } from "../rules";
import type { Finding, FindingKind } from "./finding";

/** Below this value the sensor's noise is as large as what it measures. */
const DARK = 0.06;

/** A target reads so dark that noise decides its hue, and its rules go by hue, saturation or chroma. */
export const tooDark: FindingKind = {
  code: "too-dark",
  find({ project, spread }) {
    return project.targets.flatMap((target): Finding[] => {
      if (target.kind === "background") return [];
      for (const set of project.ruleSets) {
        const val = spread(set.id, target.id, "val");
        if (val === undefined || val.high >= DARK || !goesByColour(set, target.id)) continue;
        const sensors = project.sensors.filter((s) => s.ruleSet === set.id);
        const bare = sensors.filter((s) => REPORT_KINDS.get(s.reports).referenced && s.reference === undefined);
        const white = bare.length > 0 ? `, or take white and dark of ${bare[0].name}` : "";
        return [
          {
            code: "too-dark",
            level: "warning",
            title: `${target.name} reads too dark`,
            sentence: `95 % of its readings by ${sensors.map((s) => s.name).join(", ")} have a value under ${(100 * val.high).toFixed(1)} %, where noise decides the hue. ${sensors.every(isCamera) ? "Let more light into the camera" : "Mount the sensor nearer to its best height"}${white}, or test lightness alone.`,
            place: { stage: "sense", target: target.id },
          },
        ];
      }
      return [];
    });
  },
};

const COLOURED: readonly Feature[] = ["hue", "sat", "chroma"];

/** Whether what a set takes for a target goes by its colour, and not by how bright it is alone. */
const goesByColour = (set: RuleSet, target: TargetId) =>
  set.method === "nearest" ||
  set.rules.some(
    (r) => r.on && r.target === target && r.any.some((c) => c.all.some((t) => COLOURED.includes(t.feature))),
  );
