export type { ConditionKind, NameOf, Sought } from "./ConditionKind";
export type { Condition, Moment } from "./condition";
export {
  CONDITIONS,
  ConditionSchema,
  conditionKindOf,
  conditionRows,
  goesByTravel,
  namedCondition,
  partsThatMustHold,
  printCondition,
  soughtBy,
  tellCondition,
} from "./conditionTable";
export { parseCondition } from "./parseCondition";
