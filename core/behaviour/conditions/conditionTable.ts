import * as z from "zod";
import { Table } from "../../names";
import type { Row, RowMaker } from "../rowKinds";
import type { NameVisitor } from "../Visitor";
import { measure, side } from "./blob";
import { button } from "./button";
import type { ConditionKind, NameOf, Sought } from "./ConditionKind";
import type { Condition } from "./condition";
import { count } from "./count";
import { feature } from "./feature";
import { list } from "./list";
import { logicKinds } from "./logic";
import { seen } from "./seen";
import { still } from "./still";

/** The schema of a condition: whatever the table knows. */
export const ConditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union(CONDITIONS.schemas as unknown as [z.ZodType<Condition>, z.ZodType<Condition>]),
);

const LOGIC = logicKinds({
  schema: ConditionSchema,
  kindOf: conditionKindOf,
  rows: conditionRows,
  print: printCondition,
  tell: tellCondition,
  named: namedCondition,
});

/** Every kind of condition. What follows a target's name is looked for in this order: that it is seen comes last. */
export const CONDITIONS = new Table<ConditionKind>([
  feature,
  count,
  list,
  button,
  still,
  measure,
  side,
  seen,
  ...LOGIC,
] as readonly unknown[] as readonly ConditionKind[]);

/** The table entry of a condition. */
export function conditionKindOf(condition: Condition): ConditionKind<Condition> {
  for (const key in condition) {
    const kind = CONDITIONS.find(key) as ConditionKind<Condition> | undefined;
    if (kind !== undefined) return kind;
  }
  throw new Error(`no kind of condition has the keys ${Object.keys(condition).join(", ")}`);
}

/** The rows that a condition is for a machine. */
export function conditionRows(condition: Condition, to: RowMaker): readonly Row[] {
  return conditionKindOf(condition).rows(condition, to);
}

/** The canonical form: `parseCondition` gives back an equal condition. */
export function printCondition(condition: Condition): string {
  return conditionKindOf(condition).print(condition);
}

/** A condition in plain words; `name` gives the names that people use. */
export function tellCondition(condition: Condition, name: NameOf): string {
  return conditionKindOf(condition).tell(condition, name);
}

/** The same condition with every name as the visitor gives it. */
export function namedCondition(condition: Condition, visit: NameVisitor): Condition {
  return conditionKindOf(condition).named(condition, visit);
}

/** The targets that a condition holds for while they are seen, with the sensors that see them. */
export function soughtBy(condition: Condition): readonly Sought[] {
  const kind = conditionKindOf(condition);
  if (kind.turnsRound) return [];
  const own = kind.looksFor?.(condition);
  return own !== undefined ? [own] : (kind.parts?.(condition) ?? []).flatMap(soughtBy);
}

/** Whether a condition goes by how the wheels turn, so that it has to be asked at every moment. */
export function goesByTravel(condition: Condition): boolean {
  const kind = conditionKindOf(condition);
  return kind.byTravel === true || (kind.parts?.(condition) ?? []).some(goesByTravel);
}

/** The parts of a condition that must all hold. */
export function partsThatMustHold(condition: Condition): readonly Condition[] {
  const kind = conditionKindOf(condition);
  return kind.needsAll ? (kind.parts?.(condition) ?? []).flatMap(partsThatMustHold) : [condition];
}
