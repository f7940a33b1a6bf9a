import * as z from "zod";
import { type SensorId, Table, type TargetId } from "../../names";
import { type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../../phrases";
import type { NameOf } from "../conditions";
import type { NameVisitor } from "../Visitor";
import { becomes, holds } from "./conditionTriggers";
import type { FiredBy, TriggerKind } from "./TriggerKind";
import { arrives, departs, present } from "./targetTriggers";
import { after, nothingKnownFor } from "./timeTriggers";

export { conditionNeed } from "./conditionNeed";
export type { Look, Need, TriggerKind } from "./TriggerKind";

const KINDS = [arrives, departs, present, nothingKnownFor, after, becomes, holds] as const;
type TriggerOf<K> = K extends TriggerKind<infer T> ? T : never;
/** What starts a response. */
export type Trigger = TriggerOf<(typeof KINDS)[number]>;

/** Every kind of trigger. */
export const TRIGGERS = new Table<TriggerKind>(KINDS as readonly unknown[] as readonly TriggerKind[]);
export const Trigger: z.ZodType<Trigger> = z.union(
  TRIGGERS.schemas as unknown as [z.ZodType<Trigger>, z.ZodType<Trigger>],
);

/** The table entry of a trigger. */
export function triggerKindOf(trigger: Trigger): TriggerKind<Trigger> {
  for (const key in trigger) {
    const kind = TRIGGERS.find(key);
    if (kind !== undefined) return kind as TriggerKind<Trigger>;
  }
  throw new Error(`no kind of trigger has the keys ${Object.keys(trigger).join(", ")}`);
}

/** The canonical phrase: `coral or teal arrives`, `nothing known for 4 s`, `becomes tally >= 2`. */
export const printTrigger = (trigger: Trigger): string => triggerKindOf(trigger).print(trigger);

/** In plain words, as a sentence begins. */
export function tellTrigger(trigger: Trigger, name: NameOf): string {
  const sensor = sensorOf(trigger);
  return triggerKindOf(trigger).tell(trigger, name, sensor && name(sensor));
}

/** The same trigger with every name as the visitor gives it. */
export const namedTrigger = (trigger: Trigger, visit: NameVisitor): Trigger =>
  triggerKindOf(trigger).named(trigger, visit);

/** The targets that a trigger is about; none where it is about something else. */
export const targetsOf = (trigger: Trigger): readonly TargetId[] => triggerKindOf(trigger).targets?.(trigger) ?? [];

/** The targets that a trigger answers when they come or are there, each with the sensor that is named for it. */
export const answeredBy = (trigger: Trigger): readonly FiredBy[] =>
  (triggerKindOf(trigger).answers?.(trigger) ?? []).flatMap(({ targets, sensor }) =>
    targets.map((target) => ({ target, sensor })),
  );

/** The sensor that a trigger names. */
export const sensorOf = (trigger: Trigger): SensorId | undefined => ("sensor" in trigger ? trigger.sensor : undefined);

/** Reads a trigger's phrase. */
export function parseTrigger(phrase: string, names: Names): { value: Trigger } | { problem: PhraseProblem } {
  return parsePhrase(phrase, names, parseTriggerFrom);
}

/** Reads a trigger where a reader stands. */
export function parseTriggerFrom(reader: PhraseReader): Trigger {
  const sensor = reader.skipSensor() as SensorId | undefined;
  for (const kind of TRIGGERS.entries) {
    const trigger = kind.parse?.(reader) as Trigger | undefined;
    if (trigger !== undefined) return bySensor(trigger, sensor, reader);
  }
  const button = reader.nameHere("targets") === undefined ? reader.nameHere("buttons") : undefined;
  if (button !== undefined) reader.failSaying(`“${button}” is a button; “button ${button} pressed” is meant`);
  const targets = [reader.takeName("targets") as TargetId];
  while (reader.skip("or")) targets.push(reader.takeName("targets") as TargetId);
  for (const { afterTargets } of TRIGGERS.entries)
    for (const [first, ...rest] of afterTargets?.words ?? []) {
      if (!reader.skip(first)) continue;
      for (const word of rest) reader.take(word);
      return bySensor(afterTargets?.make(targets) as Trigger, sensor, reader);
    }
  return reader.fail("“arrives”, “departs” or “is present”");
}

/** The trigger as a sensor judges it; not every trigger goes by a sensor. */
function bySensor(trigger: Trigger, sensor: SensorId | undefined, reader: PhraseReader): Trigger {
  if (sensor === undefined) return trigger;
  const kind = triggerKindOf(trigger);
  if (kind.schema.safeParse({ ...trigger, sensor }).success) return { ...trigger, sensor } as Trigger;
  return reader.fail(`no sensor goes before “${kind.print(trigger)}”: something else`);
}
