import { Table } from "../../names";
import type { NameVisitor } from "../Visitor";
import type { ConditionKind, NameOf } from "./ConditionKind";
import type { Condition, Moment } from "./condition";

/** Every kind of condition; `index.ts` puts them in. */
export const CONDITIONS = new Table<ConditionKind>([]);

/** The table entry of a condition. */
export function conditionKindOf(condition: Condition): ConditionKind<Condition> {
  for (const key in condition) {
    const kind = CONDITIONS.find(key);
    if (kind !== undefined) return kind as ConditionKind<Condition>;
  }
  throw new Error(`no kind of condition has the keys ${Object.keys(condition).join(", ")}`);
}

/** Whether a condition holds at a moment. */
export const holds = (condition: Condition, moment: Moment): boolean =>
  conditionKindOf(condition).holds(condition, moment);

/** The canonical form: `parseCondition` gives back an equal condition. */
export const printCondition = (condition: Condition): string => conditionKindOf(condition).print(condition);

/** A condition in plain words; `name` gives the names that people use. */
export const tellCondition = (condition: Condition, name: NameOf): string =>
  conditionKindOf(condition).tell(condition, name);

/** The same condition with every name as the visitor gives it. */
export const namedCondition = (condition: Condition, visit: NameVisitor): Condition =>
  conditionKindOf(condition).named(condition, visit);

/** The parts of a condition that must all hold. */
export function partsThatMustHold(condition: Condition): readonly Condition[] {
  const kind = conditionKindOf(condition);
  return kind.needsAll ? (kind.parts?.(condition) ?? []).flatMap(partsThatMustHold) : [condition];
}
