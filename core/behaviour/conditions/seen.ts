import * as z from "zod";
import { type int, whole } from "../../arithmetic";
import { SensorIdSchema, type TargetId, TargetIdSchema, UNKNOWN } from "../../names";
import type { Engine } from "../engine/Engine";
import { sees } from "../engine/eyes";
import { visitedSensor } from "../Visitor";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";
import { prefix, toldBy } from "./prefix";

type Seen = Extract<Condition, { seen: unknown }>;

const schema: z.ZodType<Seen> = z.strictObject({
  seen: z
    .array(z.union([z.literal(UNKNOWN), TargetIdSchema]))
    .min(1)
    .max(50),
  sensor: SensorIdSchema.optional(),
});

/** Tells whether a sensor sees one of `count` targets, whose labels stand from a cell on. */
function seesOne(e: Engine, eye: int, count: int, labels: int): boolean {
  for (let i = 0; i < count; i++) if (sees(e, eye, whole(e.p.rows[labels + i]))) return true;
  return false;
}

/** A sensor's seen is one of some targets, or unknown. */
export const seen: ConditionKind<Seen> = {
  key: "seen",
  schema,
  parse: (reader, of) => (reader.skip(UNKNOWN) ? { seen: [UNKNOWN], ...of } : undefined),
  parseAfterTarget: (_, target, of) => ({ seen: [target], ...of }),
  print: ({ seen, sensor }) => seen.map((id) => `${prefix(sensor)}${id}`).join(" or "),
  tell: ({ seen, sensor }, name) =>
    `${seen.map((id) => (id === UNKNOWN ? "nothing known" : name(id))).join(" or ")} is seen${toldBy(sensor, name)}`,
  asks: { seen: { takes: ["eye", "count"], ask: seesOne } },
  rows: ({ seen, sensor }, to) => [
    { act: "seen", args: [to.eye(sensor), seen.length], numbers: seen.map((id) => to.label(id)) },
  ],
  named: ({ seen, sensor }, visit) => ({
    seen: seen.map((id) => (id === UNKNOWN ? id : visit("target", id, "seen"))),
    ...visitedSensor(sensor, visit),
  }),
  looksFor: ({ seen, sensor }) => ({ targets: seen.filter((id): id is TargetId => id !== UNKNOWN), sensor }),
  chain: ({ seen }) => (seen.length > 1 ? "or" : undefined),
  value: ({ sensor }, moment) => `${moment.seen(sensor)} is seen`,
};
