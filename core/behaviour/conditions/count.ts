import * as z from "zod";
import type { PhraseReader } from "../../phrases";
import { CLOSED, inRange } from "../engine/ask";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";

type Counted = Extract<Condition, { count: unknown }>;

const schema: z.ZodType<Counted> = z
  .strictObject({ count: z.string(), from: z.number().int().optional(), to: z.number().int().optional() })
  .refine(({ from, to }) => from !== undefined || to !== undefined, "a count needs a bound");

const takeWhole = (reader: PhraseReader): number => {
  const n = reader.takeNumber("a whole number");
  return Number.isInteger(n) ? n : reader.failNumber("a whole number");
};

function parseCountRange(reader: PhraseReader): { from?: number; to?: number } {
  if (reader.skip(">=")) return { from: takeWhole(reader) };
  if (reader.skip("<=")) return { to: takeWhole(reader) };
  if (reader.skip(">")) return { from: takeWhole(reader) + 1 };
  if (reader.skip("<")) return { to: takeWhole(reader) - 1 };
  if (reader.skip("=")) {
    const n = takeWhole(reader);
    return { from: n, to: n };
  }
  if (!reader.peekIs("number")) reader.fail(">=, <=, > , < or = with a number");
  const from = takeWhole(reader);
  reader.take("..");
  const to = takeWhole(reader);
  return from > to ? reader.failNumber(`a whole number from ${from} on`) : { from, to };
}

const written = ({ from, to }: Counted) => {
  if (from !== undefined && to !== undefined) return from === to ? `= ${from}` : `${from}..${to}`;
  return from !== undefined ? `>= ${from}` : `<= ${to ?? 0}`;
};

/** A counter lies in a range. */
export const count: ConditionKind<Counted> = {
  key: "count",
  schema,
  parse(reader, of) {
    const counter = of.sensor === undefined ? reader.skipName("counters") : undefined;
    return counter === undefined ? undefined : { count: counter, ...parseCountRange(reader) };
  },
  print: (condition) => `${condition.count} ${written(condition)}`,
  tell: (condition, name) => `the count ${name(condition.count)} ${written(condition)}`,
  asks: {
    count: {
      takes: ["counter", "from", "to"],
      ask: (e, counter, from, to) => inRange(e.counters[counter], from, to, CLOSED),
    },
  },
  rows: ({ count, from = -Infinity, to: most = Infinity }, to) => [
    { act: "count", args: [to.counter(count), from, most] },
  ],
  named: ({ count, ...rest }, visit) => ({ count: visit("counter", count, "count"), ...rest }),
  changedBySteps: ({ count }) => count,
  value: ({ count }, moment) => String(moment.counter(count)),
};
