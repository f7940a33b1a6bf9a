import * as z from "zod";
import { type SensorId, SensorIdSchema, type TargetId, TargetIdSchema, UNKNOWN, type Unknown } from "../names";
import { type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../phrases";
import { holds, type Moment, parseCondition, printCondition } from "./condition";
import { Condition } from "./conditionSchema";

const Targets = z.array(TargetIdSchema).min(1).max(50);
const Ms = z.number().positive().max(3_600_000);
const sensor = SensorIdSchema.optional();

const arrivesSchema = z.strictObject({ arrives: Targets, sensor });
const departsSchema = z.strictObject({ departs: Targets, sensor });
const presentSchema = z.strictObject({ present: Targets, sensor });
const nothingSchema = z.strictObject({ nothingKnownFor: Ms, sensor });
const afterSchema = z.strictObject({ after: Ms });
const becomesSchema = z.strictObject({ becomes: Condition });
const holdsSchema = z.strictObject({ holds: Condition });

/** What starts a response. */
export type Trigger =
  | z.infer<typeof arrivesSchema>
  | z.infer<typeof departsSchema>
  | z.infer<typeof presentSchema>
  | z.infer<typeof nothingSchema>
  | z.infer<typeof afterSchema>
  | z.infer<typeof becomesSchema>
  | z.infer<typeof holdsSchema>;
export const Trigger: z.ZodType<Trigger> = z.union([
  arrivesSchema,
  departsSchema,
  presentSchema,
  nothingSchema,
  afterSchema,
  becomesSchema,
  holdsSchema,
]);

/** What a trigger is judged by at one moment. */
export interface TriggerScene extends Moment {
  readonly t: number;
  readonly modeSince: number;
  /** What arrived with the reading of this moment. */
  arrived(sensor?: SensorId): TargetId | Unknown;
  /** What departed with the reading of this moment. */
  departed(sensor?: SensorId): TargetId | Unknown;
  /** The number of the visit in progress or last ended. */
  visit(sensor?: SensorId): number;
  /** When anything known was last seen; −Infinity for never. */
  knownAt(sensor?: SensorId): number;
}

/**
 * One kind of trigger. `episode` gives a number that names the occasion (a visit, a silence) while the trigger holds,
 * and undefined while it does not: a response that fires once a visit has had its turn once it knows the number.
 * `onEdge` kinds fire only at the moment at which they begin to hold; `renews` kinds have a new occasion each time they
 * have ceased to hold.
 */
interface TriggerKind<T> {
  has(trigger: Trigger): trigger is T & Trigger;
  onEdge: boolean;
  renews?: true;
  /** Holds only at the moment of an arrival or a departure. */
  byEvents?: true;
  episode(trigger: T, scene: TriggerScene): number | undefined;
  /** Reads its phrase if it opens with a word of its own. */
  parse?(reader: PhraseReader): T | undefined;
  print(trigger: T): string;
}

const arrives: TriggerKind<z.infer<typeof arrivesSchema>> = {
  has: (t): t is z.infer<typeof arrivesSchema> => "arrives" in t,
  onEdge: false,
  byEvents: true,
  episode({ arrives, sensor }, scene) {
    const target = scene.arrived(sensor);
    return target !== UNKNOWN && arrives.includes(target) ? scene.visit(sensor) : undefined;
  },
  print: ({ arrives, sensor }) => `${by(sensor)}${arrives.join(" or ")} arrives`,
};

const departs: TriggerKind<z.infer<typeof departsSchema>> = {
  has: (t): t is z.infer<typeof departsSchema> => "departs" in t,
  onEdge: false,
  byEvents: true,
  episode({ departs, sensor }, scene) {
    const target = scene.departed(sensor);
    return target !== UNKNOWN && departs.includes(target) ? scene.visit(sensor) : undefined;
  },
  print: ({ departs, sensor }) => `${by(sensor)}${departs.join(" or ")} departs`,
};

const present: TriggerKind<z.infer<typeof presentSchema>> = {
  has: (t): t is z.infer<typeof presentSchema> => "present" in t,
  onEdge: false,
  episode({ present, sensor }, scene) {
    const target = scene.seen(sensor);
    return target !== UNKNOWN && present.includes(target) ? scene.visit(sensor) : undefined;
  },
  print: ({ present, sensor }) => `${by(sensor)}${present.join(" or ")} is present`,
};

const nothingKnownFor: TriggerKind<z.infer<typeof nothingSchema>> = {
  has: (t): t is z.infer<typeof nothingSchema> => "nothingKnownFor" in t,
  onEdge: false,
  episode({ nothingKnownFor, sensor }, scene) {
    const since = Math.max(scene.knownAt(sensor), scene.modeSince);
    return scene.seen(sensor) === UNKNOWN && scene.t - since >= nothingKnownFor ? since : undefined;
  },
  parse(reader) {
    if (!reader.skip("nothing")) return undefined;
    reader.take("known");
    reader.take("for");
    return { nothingKnownFor: reader.takeSeconds("a time") };
  },
  print: ({ nothingKnownFor, sensor }) => `${by(sensor)}nothing known for ${nothingKnownFor / 1000} s`,
};

const after: TriggerKind<z.infer<typeof afterSchema>> = {
  has: (t): t is z.infer<typeof afterSchema> => "after" in t,
  onEdge: false,
  episode: ({ after }, scene) => (scene.t - scene.modeSince >= after ? 1 : undefined),
  parse: (reader) => (reader.skip("after") ? { after: reader.takeSeconds("a time") } : undefined),
  print: ({ after }) => `after ${after / 1000} s`,
};

const becomes: TriggerKind<z.infer<typeof becomesSchema>> = {
  has: (t): t is z.infer<typeof becomesSchema> => "becomes" in t,
  onEdge: true,
  episode: ({ becomes }, scene) => (holds(becomes, scene) ? 1 : undefined),
  parse: (reader) => (reader.skip("becomes") ? { becomes: parseCondition(reader) } : undefined),
  print: ({ becomes }) => `becomes ${printCondition(becomes)}`,
};

const holdsKind: TriggerKind<z.infer<typeof holdsSchema>> = {
  has: (t): t is z.infer<typeof holdsSchema> => "holds" in t,
  onEdge: false,
  renews: true,
  episode: ({ holds: condition }, scene) => (holds(condition, scene) ? 1 : undefined),
  parse: (reader) => (reader.skip("holds") ? { holds: parseCondition(reader) } : undefined),
  print: ({ holds: condition }) => `holds ${printCondition(condition)}`,
};

/** Every kind of trigger. A new one is one more entry. */
const KINDS = [after, becomes, holdsKind, nothingKnownFor, arrives, departs, present] as TriggerKind<Trigger>[];

const kindOf = (trigger: Trigger) => KINDS.find((kind) => kind.has(trigger)) as TriggerKind<Trigger>;
const by = (sensor: SensorId | undefined) => (sensor === undefined ? "" : `${sensor}: `);

/** How a trigger is judged, looked up once so that every moment of a run can ask. */
export interface TriggerJudge {
  /** The occasion on which it now holds, or undefined. */
  episode(trigger: Trigger, scene: TriggerScene): number | undefined;
  onEdge: boolean;
  renews?: true;
  byEvents?: true;
}

/** The judge of a trigger's kind. */
export function triggerJudge(trigger: Trigger): TriggerJudge {
  return kindOf(trigger);
}

/** The canonical phrase: `coral or teal arrives`, `nothing known for 4 s`, `becomes tally >= 2`. */
export function printTrigger(trigger: Trigger): string {
  return kindOf(trigger).print(trigger);
}

/** Reads a trigger's phrase. */
export function parseTrigger(phrase: string, names: Names): { value: Trigger } | { problem: PhraseProblem } {
  return parsePhrase(phrase, names, parseTriggerFrom);
}

/** Reads a trigger where a reader stands. */
export function parseTriggerFrom(reader: PhraseReader): Trigger {
  const sensor = reader.peekSign(":", 1) ? (reader.takeName("sensors") as SensorId) : undefined;
  if (sensor !== undefined) reader.take(":");
  for (const kind of KINDS) {
    const trigger = kind.parse?.(reader);
    if (trigger !== undefined) return sensor === undefined ? trigger : ({ ...trigger, sensor } as Trigger);
  }
  return seenTrigger(reader, sensor);
}

function seenTrigger(reader: PhraseReader, sensor: SensorId | undefined): Trigger {
  const targets = [reader.takeName("targets") as TargetId];
  while (reader.skip("or")) targets.push(reader.takeName("targets") as TargetId);
  const of = sensor === undefined ? {} : { sensor };
  if (reader.skip("arrives") || reader.skip("arrive")) return { arrives: targets, ...of };
  if (reader.skip("departs") || reader.skip("depart")) return { departs: targets, ...of };
  if (!reader.skip("is")) reader.skip("are");
  if (reader.skip("present")) return { present: targets, ...of };
  return reader.fail("“arrives”, “departs” or “is present”");
}
