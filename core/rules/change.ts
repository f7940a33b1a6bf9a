import * as z from "zod";
import { ClauseIdSchema, RuleIdSchema, RuleSetIdSchema, SensorIdSchema, Table } from "../names";
import { Clean, FeatureSchema, Sensor, Strip } from "../readings";
import { Rule, RuleSet, Test } from "./ruleSetSchema";
import { setBound, withRule } from "./setBound";

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

/** The part of a project that judges readings. */
interface Judged {
  ruleSets: RuleSet[];
  sensors: Sensor[];
}

/** One kind of change, known by the property of its name: what it is as plain data, and the project with it made. */
export interface ChangeKind<C extends object = object, P = Judged> {
  key: string;
  schema: z.ZodType<C>;
  apply(project: P, change: C): P;
}

/** A change of a rule set. */
function ofSet<K extends string, S extends z.ZodRawShape>(
  key: K,
  shape: S,
  change: (set: RuleSet, change: z.infer<z.ZodObject<S, z.core.$strict>>) => RuleSet,
) {
  const schema = z.strictObject({ ruleSet: RuleSetIdSchema, ...shape });
  return {
    key,
    schema,
    apply: (project: Judged, made: z.infer<typeof schema>): Judged => ({
      ...project,
      ruleSets: project.ruleSets.map((set) =>
        set.id === (made as { ruleSet: string }).ruleSet ? change(set, made as never) : set,
      ),
    }),
  };
}

/** A change of how a sensor is read. */
function ofSensor<K extends string, V>(
  key: K,
  value: z.ZodType<V>,
  change: (sensor: Sensor, value: V) => Sensor = (sensor, value) => ({ ...sensor, [key]: value }),
) {
  const schema = z.strictObject({ sensor: SensorIdSchema, [key]: value } as { sensor: typeof SensorIdSchema } & {
    [k in K]: z.ZodType<V>;
  });
  return {
    key,
    schema,
    apply: (project: Judged, made: z.infer<typeof schema>): Judged => ({
      ...project,
      sensors: project.sensors.map((sensor) =>
        sensor.id === (made as { sensor: string }).sensor ? change(sensor, (made as Record<K, V>)[key]) : sensor,
      ),
    }),
  };
}

const ALL = [
  ofSet("place", { place: Bound, value: z.number().optional() }, (set, { place, value }) =>
    setBound(set, place, value),
  ),
  ofSet("add", { rule: RuleIdSchema, clause: ClauseIdSchema, add: Test }, (set, { rule, clause, add }) =>
    withRule(set, rule, (own) => ({
      ...own,
      any: own.any.map((c) => (c.id === clause ? { ...c, all: [...c.all, add] } : c)),
    })),
  ),
  ofSet("any", { rule: RuleIdSchema, any: Rule.shape.any }, (set, { rule, any }) =>
    withRule(set, rule, (own) => ({ ...own, any })),
  ),
  ofSet("before", { rule: RuleIdSchema, before: RuleIdSchema }, (set, { rule, before }) => {
    const own = set.rules.find((r) => r.id === rule);
    const others = set.rules.filter((r) => r !== own);
    const at = others.findIndex((r) => r.id === before);
    return own === undefined || at < 0 ? set : { ...set, rules: others.toSpliced(at, 0, own) };
  }),
  ofSet("remove", { remove: RuleIdSchema }, (set, { remove }) => ({
    ...set,
    rules: set.rules.filter((r) => r.id !== remove),
  })),
  ofSet("rules", { rules: RuleSet.shape.rules }, (set, { rules }) => ({ ...set, rules })),
  ofSet("references", { references: RuleSet.shape.nearest.unwrap().shape.references }, (set, { references }) => ({
    ...set,
    nearest: { ...set.nearest, references },
  })),
  ofSet("reject", { reject: z.number().positive().max(2) }, (set, { reject }) => ({
    ...set,
    nearest: { ...set.nearest, reject },
  })),
  ofSet("rejoinMs", { rejoinMs: z.number().min(0).max(60_000) }, (set, { rejoinMs }) => ({
    ...set,
    steady: { ...set.steady, rejoinMs },
  })),
  ofSensor("reference", Sensor.shape.reference.unwrap().nullable(), ({ reference: _, ...bare }, reference) =>
    reference === null ? bare : { ...bare, reference },
  ),
  ofSensor("codes", Sensor.shape.codes.unwrap()),
  ofSensor("order", Sensor.shape.order.unwrap()),
  ofSensor("scale", Sensor.shape.scale),
  ofSensor("strip", Strip),
  ofSensor("values", Sensor.shape.values.unwrap()),
  ofSensor("clean", Clean),
] as const;

/** A change of rules or of how a sensor is read, as plain data: what a finding's fix and an advice are made of. */
export type Change = z.infer<(typeof ALL)[number]["schema"]>;

/** All such changes. */
export const CHANGES = new Table<ChangeKind>(ALL as readonly unknown[] as ChangeKind[]);
export const Change = z.union(CHANGES.schemas as [z.ZodType<Change>, z.ZodType<Change>]);

/** The project with the change made, by the entry of a table that knows it by a property. */
export function changedBy<P>(kinds: Pick<Table<ChangeKind<object, P>>, "find">, project: P, change: object): P {
  for (const key in change) {
    const kind = kinds.find(key);
    if (kind !== undefined) return kind.apply(project, change);
  }
  throw new Error(`no kind of change has the keys ${Object.keys(change).join(", ")}`);
}

export const applyChange = <P extends Judged>(project: P, change: Change): P =>
  changedBy(CHANGES, project as Judged, change) as P;
