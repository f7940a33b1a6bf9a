import type { RuleId, RuleSetId, SensorId } from "../names";
import type { Sensor } from "../readings";
import type { Reference, Rule, RuleSet, Test } from "./ruleSetSchema";
import { type BoundPlace, setBound, withRule } from "./setBound";

/** A change of rules or of how a sensor is read, as plain data: what a finding's fix and an advice are made of. */
export type Change =
  | { ruleSet: RuleSetId; place: BoundPlace; value: number | undefined }
  | { ruleSet: RuleSetId; rule: RuleId; clause: number; add: Test }
  | { ruleSet: RuleSetId; rule: RuleId; any: Rule["any"] }
  | { ruleSet: RuleSetId; rule: RuleId; to: number }
  | { ruleSet: RuleSetId; remove: RuleId }
  | { ruleSet: RuleSetId; rules: Rule[] }
  | { ruleSet: RuleSetId; references: Reference[] }
  | { ruleSet: RuleSetId; reject: number }
  | { ruleSet: RuleSetId; rejoinMs: number }
  | { sensor: SensorId; reference: Sensor["reference"] }
  | { sensor: SensorId; codes: Sensor["codes"] }
  | { sensor: SensorId; order: Sensor["order"] }
  | { sensor: SensorId; scale: Sensor["scale"] }
  | { sensor: SensorId; strip: NonNullable<Sensor["strip"]> }
  | { sensor: SensorId; values: NonNullable<Sensor["values"]> }
  | { sensor: SensorId; clean: NonNullable<Sensor["clean"]> };

/** The project with the change made. */
export function applyChange<P extends { ruleSets: RuleSet[]; sensors: Sensor[] }>(project: P, change: Change): P {
  if ("sensor" in change) {
    return {
      ...project,
      sensors: project.sensors.map((sensor) => {
        if (sensor.id !== change.sensor) return sensor;
        if ("codes" in change) return { ...sensor, codes: change.codes };
        if ("order" in change) return { ...sensor, order: change.order };
        if ("scale" in change) return { ...sensor, scale: change.scale };
        if ("strip" in change) return { ...sensor, strip: change.strip };
        if ("values" in change) return { ...sensor, values: change.values };
        if ("clean" in change) return { ...sensor, clean: change.clean };
        const { reference: _, ...bare } = sensor;
        return change.reference === undefined ? bare : { ...bare, reference: change.reference };
      }),
    };
  }
  return {
    ...project,
    ruleSets: project.ruleSets.map((set) => (set.id === change.ruleSet ? changedRules(set, change) : set)),
  };
}

function changedRules(set: RuleSet, change: Exclude<Change, { sensor: SensorId }>): RuleSet {
  if ("place" in change) return setBound(set, change.place, change.value);
  if ("add" in change)
    return withRule(set, change.rule, (rule) => ({
      ...rule,
      any: rule.any.map((c, i) => (i === change.clause ? { ...c, all: [...c.all, change.add] } : c)),
    }));
  if ("any" in change) return withRule(set, change.rule, (rule) => ({ ...rule, any: change.any }));
  if ("to" in change) {
    const from = set.rules.findIndex((r) => r.id === change.rule);
    if (from < 0) return set;
    return { ...set, rules: set.rules.toSpliced(from, 1).toSpliced(change.to, 0, set.rules[from]) };
  }
  if ("remove" in change) return { ...set, rules: set.rules.filter((r) => r.id !== change.remove) };
  if ("rules" in change) return { ...set, rules: change.rules };
  if ("references" in change) return { ...set, nearest: { ...set.nearest, references: change.references } };
  if ("rejoinMs" in change) return { ...set, steady: { ...set.steady, rejoinMs: change.rejoinMs } };
  return { ...set, nearest: { ...set.nearest, reject: change.reject } };
}
