import { numbered, type RuleId, type TargetId } from "../names";
import { REPORT_KINDS, type Sensor } from "../readings";
import type { RuleSet } from "./ruleSetSchema";

/**
 * The rule set by which a sensor sees. A sensor with codes of its own needs no bands: each code stands for its target
 * as if a rule tested for it, and of its rule set only the steadying counts.
 *
 * @throws Error where the project lacks the rule set that the sensor names.
 */
export function ruleSetOf(project: { ruleSets: readonly RuleSet[] }, sensor: Sensor): RuleSet {
  const ruleSet = project.ruleSets.find((set) => set.id === sensor.ruleSet);
  if (ruleSet === undefined)
    throw new Error(`the sensor ${sensor.id} names the rule set ${sensor.ruleSet}, which is not there`);
  return REPORT_KINDS.get(sensor.reports).coded ? byCodes(ruleSet, sensor) : ruleSet;
}

/** A rule for each code of the sensor, in the order of the codes. */
function byCodes(from: RuleSet, { codes = {} }: Sensor): RuleSet {
  const sorted = Object.entries(codes).sort(([a], [b]) => Number(a) - Number(b));
  return {
    ...from,
    method: "bands",
    rules: sorted.map(([code, target]) => ({
      id: `code-${code}` as RuleId,
      target: target as TargetId,
      on: true,
      any: numbered("clause", [{ all: [{ feature: "code", from: Number(code) - 0.5, to: Number(code) + 0.5 }] }]),
    })),
  };
}
