import * as z from "zod";
import { ClauseIdSchema, RuleIdSchema, RuleSetIdSchema, SensorIdSchema } from "../names";
import { Clean, FeatureSchema, Sensor, Strip } from "../readings";
import { Rule, RuleSet, Test } from "./ruleSetSchema";
import { setBound, withRule } from "./setBound";

const ofSet = { ruleSet: RuleSetIdSchema };
const ofSensor = { sensor: SensorIdSchema };

/** The fields by which a test of a clause is found, and one of its ends: see `TestPlace`. */
export const placeOfTestShape = {
  rule: RuleIdSchema,
  clause: ClauseIdSchema,
  feature: FeatureSchema,
  not: z.boolean().optional(),
  nth: z.number().int().min(0).optional(),
};
export const BoundEnd = z.enum(["from", "to"]);
const Bound = z.strictObject({ ...placeOfTestShape, end: BoundEnd });

/** A change of rules or of how a sensor is read, as plain data: what a finding's fix and an advice are made of. */
export const Change = z.union([
  z.strictObject({ ...ofSet, place: Bound, value: z.number().optional() }),
  z.strictObject({ ...ofSet, rule: RuleIdSchema, clause: ClauseIdSchema, add: Test }),
  z.strictObject({ ...ofSet, rule: RuleIdSchema, any: Rule.shape.any }),
  z.strictObject({ ...ofSet, rule: RuleIdSchema, before: RuleIdSchema }),
  z.strictObject({ ...ofSet, remove: RuleIdSchema }),
  z.strictObject({ ...ofSet, rules: RuleSet.shape.rules }),
  z.strictObject({ ...ofSet, references: RuleSet.shape.nearest.unwrap().shape.references }),
  z.strictObject({ ...ofSet, reject: z.number().positive().max(2) }),
  z.strictObject({ ...ofSet, rejoinMs: z.number().min(0).max(60_000) }),
  z.strictObject({ ...ofSensor, reference: Sensor.shape.reference.unwrap().nullable() }),
  z.strictObject({ ...ofSensor, codes: Sensor.shape.codes.unwrap() }),
  z.strictObject({ ...ofSensor, order: Sensor.shape.order.unwrap() }),
  z.strictObject({ ...ofSensor, scale: Sensor.shape.scale }),
  z.strictObject({ ...ofSensor, strip: Strip }),
  z.strictObject({ ...ofSensor, values: Sensor.shape.values.unwrap() }),
  z.strictObject({ ...ofSensor, clean: Clean }),
]);
export type Change = z.infer<typeof Change>;

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
        return change.reference === null ? bare : { ...bare, reference: change.reference };
      }),
    };
  }
  return {
    ...project,
    ruleSets: project.ruleSets.map((set) => (set.id === change.ruleSet ? changedRules(set, change) : set)),
  };
}

function changedRules(set: RuleSet, change: Exclude<Change, { sensor: unknown }>): RuleSet {
  if ("place" in change) return setBound(set, change.place, change.value);
  if ("add" in change)
    return withRule(set, change.rule, (rule) => ({
      ...rule,
      any: rule.any.map((c) => (c.id === change.clause ? { ...c, all: [...c.all, change.add] } : c)),
    }));
  if ("any" in change) return withRule(set, change.rule, (rule) => ({ ...rule, any: change.any }));
  if ("before" in change) {
    const rule = set.rules.find((r) => r.id === change.rule);
    const others = set.rules.filter((r) => r !== rule);
    const at = others.findIndex((r) => r.id === change.before);
    return rule === undefined || at < 0 ? set : { ...set, rules: others.toSpliced(at, 0, rule) };
  }
  if ("remove" in change) return { ...set, rules: set.rules.filter((r) => r.id !== change.remove) };
  if ("rules" in change) return { ...set, rules: change.rules };
  if ("references" in change) return { ...set, nearest: { ...set.nearest, references: change.references } };
  if ("rejoinMs" in change) return { ...set, steady: { ...set.steady, rejoinMs: change.rejoinMs } };
  return { ...set, nearest: { ...set.nearest, reject: change.reject } };
}
