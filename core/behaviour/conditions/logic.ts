import * as z from "zod";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";
import { ConditionSchema } from "./conditionSchema";
import { conditionKindOf, holds, namedCondition, printCondition, tellCondition } from "./conditionTable";

type All = Extract<Condition, { all: unknown }>;
type Any = Extract<Condition, { any: unknown }>;
type Not = Extract<Condition, { not: unknown }>;

const Parts = z
  .array(z.lazy(() => ConditionSchema))
  .min(2)
  .max(20);

/** A part as `write` gives it, in brackets where its own words would be taken for a part of the whole. */
const within = (part: Condition, breaks: readonly string[], write: (c: Condition) => string) => {
  const chain = conditionKindOf(part).chain?.(part);
  return chain !== undefined && breaks.includes(chain) ? `(${write(part)})` : write(part);
};

/** All parts hold. */
export const all: ConditionKind<All> = {
  key: "all",
  schema: z.strictObject({ all: Parts }),
  print: ({ all }) => all.map((c) => within(c, ["or"], printCondition)).join(" and "),
  tell: ({ all }, name) => all.map((c) => within(c, ["or"], (x) => tellCondition(x, name))).join(" and "),
  holds: ({ all }, moment) => all.every((c) => holds(c, moment)),
  named: ({ all }, visit) => ({ all: all.map((c) => namedCondition(c, visit)) }),
  parts: ({ all }) => all,
  needsAll: true,
  chain: () => "and",
};

/** At least one part holds. A chain of targets that are seen is one condition and needs no brackets here. */
export const any: ConditionKind<Any> = {
  key: "any",
  schema: z.strictObject({ any: Parts }),
  print: ({ any }) => any.map((c) => ("any" in c ? `(${printCondition(c)})` : printCondition(c))).join(" or "),
  tell: ({ any }, name) => any.map((c) => within(c, ["and"], (x) => tellCondition(x, name))).join(" or "),
  holds: ({ any }, moment) => any.some((c) => holds(c, moment)),
  named: ({ any }, visit) => ({ any: any.map((c) => namedCondition(c, visit)) }),
  parts: ({ any }) => any,
  chain: () => "or",
};

/** The part does not hold. */
export const not: ConditionKind<Not> = {
  key: "not",
  schema: z.strictObject({ not: z.lazy(() => ConditionSchema) }),
  print: ({ not }) => `not ${within(not, ["or", "and"], printCondition)}`,
  tell: ({ not }, name) => `not ${within(not, ["or", "and"], (x) => tellCondition(x, name))}`,
  holds: ({ not }, moment) => !holds(not, moment),
  named: ({ not }, visit) => ({ not: namedCondition(not, visit) }),
  parts: ({ not }) => [not],
};
