import * as z from "zod";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";

type Holding = Extract<Condition, { list: unknown }>;

const schema: z.ZodType<Holding> = z.strictObject({ list: z.string(), holds: z.number().int().min(0).max(1000) });

/** A list holds exactly so many targets. */
export const list: ConditionKind<Holding> = {
  key: "list",
  schema,
  parse(reader, of) {
    const list = of.sensor === undefined ? reader.skipName("lists") : undefined;
    if (list === undefined) return undefined;
    reader.take("holds");
    const length = reader.takeNumber("how many it holds");
    if (!Number.isInteger(length) || length < 0 || length > 1000) reader.failNumber("a whole number from 0 to 1000");
    return { list, holds: length };
  },
  print: ({ list, holds }) => `${list} holds ${holds}`,
  tell: ({ list, holds }, name) => `the list ${name(list)} holds ${holds}`,
  asks: { list: { takes: ["list", "length"], ask: (e, list, length) => e.listLength[list] === length } },
  rows: ({ list, holds }, to) => [{ act: "list", args: [to.list(list), holds] }],
  named: ({ list, holds }, visit) => ({ list: visit("list", list, "list"), holds }),
  changedBySteps: ({ list }) => list,
  value: ({ list }, moment) => String(moment.length(list)),
};
