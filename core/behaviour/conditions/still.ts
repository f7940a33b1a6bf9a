import * as z from "zod";
import { isStill } from "../engine/eyes";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";

type Still = Extract<Condition, { still: unknown }>;

const schema: z.ZodType<Still> = z.strictObject({ still: z.literal(true) });

/** The wheels are at rest: their encoders have counted nothing for 100 ms. */
export const still: ConditionKind<Still> = {
  key: "still",
  schema,
  parse: (reader, of) => (of.sensor === undefined && reader.skip("still") ? { still: true } : undefined),
  print: () => "still",
  tell: () => "the wheels are at rest",
  asks: { still: { takes: [], ask: isStill } },
  rows: () => [{ act: "still", args: [] }],
  named: (condition) => condition,
  byTravel: true,
};
