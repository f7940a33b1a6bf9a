import * as z from "zod";
import { truthsOf } from "../engine/ask";
import type { Row, RowMaker } from "../rowKinds";
import type { NameVisitor } from "../Visitor";
import type { ConditionKind, NameOf } from "./ConditionKind";
import type { Condition } from "./condition";

type All = Extract<Condition, { all: unknown }>;
type Any = Extract<Condition, { any: unknown }>;
type Not = Extract<Condition, { not: unknown }>;

/** What the table does with a condition of whatever kind: kinds that are made of others need it for their parts. */
export interface ConditionTable {
  schema: z.ZodType<Condition>;
  kindOf(condition: Condition): ConditionKind<Condition>;
  rows(condition: Condition, to: RowMaker): readonly Row[];
  print(condition: Condition): string;
  tell(condition: Condition, name: NameOf): string;
  named(condition: Condition, visit: NameVisitor): Condition;
}

/** The kinds that are made of others: all, any, not. */
export function logicKinds({ schema, kindOf, rows, print, tell, named }: ConditionTable) {
  const Parts = z.array(schema).min(2).max(20);

  /** A part as `write` gives it, in brackets where its own words would be taken for a part of the whole. */
  const within = (part: Condition, breaks: readonly string[], write: (c: Condition) => string) => {
    const chain = kindOf(part).chain?.(part);
    return chain !== undefined && breaks.includes(chain) ? `(${write(part)})` : write(part);
  };

  /** All parts hold. */
  const all: ConditionKind<All> = {
    key: "all",
    schema: z.strictObject({ all: Parts }),
    print: ({ all }) => all.map((c) => within(c, ["or"], print)).join(" and "),
    tell: ({ all }, name) => all.map((c) => within(c, ["or"], (x) => tell(x, name))).join(" and "),
    asks: { all: { takes: ["count"], ask: (e, count) => truthsOf(e, count) === count } },
    rows: ({ all }, to) => [...all.flatMap((c) => rows(c, to)), { act: "all", args: [all.length], parts: all.length }],
    named: ({ all }, visit) => ({ all: all.map((c) => named(c, visit)) }),
    parts: ({ all }) => all,
    needsAll: true,
    chain: () => "and",
  };

  /** At least one part holds. A chain of targets that are seen is one condition and needs no brackets here. */
  const any: ConditionKind<Any> = {
    key: "any",
    schema: z.strictObject({ any: Parts }),
    print: ({ any }) => any.map((c) => ("any" in c ? `(${print(c)})` : print(c))).join(" or "),
    tell: ({ any }, name) => any.map((c) => within(c, ["and"], (x) => tell(x, name))).join(" or "),
    asks: { any: { takes: ["count"], ask: (e, count) => truthsOf(e, count) > 0 } },
    rows: ({ any }, to) => [...any.flatMap((c) => rows(c, to)), { act: "any", args: [any.length], parts: any.length }],
    named: ({ any }, visit) => ({ any: any.map((c) => named(c, visit)) }),
    parts: ({ any }) => any,
    chain: () => "or",
  };

  /** The part does not hold. */
  const not: ConditionKind<Not> = {
    key: "not",
    schema: z.strictObject({ not: schema }),
    print: ({ not }) => `not ${within(not, ["or", "and"], print)}`,
    tell: ({ not }, name) => `not ${within(not, ["or", "and"], (x) => tell(x, name))}`,
    asks: { not: { takes: [], ask: (e) => truthsOf(e, 1) === 0 } },
    rows: ({ not }, to) => [...rows(not, to), { act: "not", args: [], parts: 1 }],
    named: ({ not }, visit) => ({ not: named(not, visit) }),
    parts: ({ not }) => [not],
    turnsRound: true,
  };
  return [all, any, not] as const;
}
