export type { ConditionKind, NameOf, Sought } from "./ConditionKind";
export type { Condition, Moment } from "./condition";
export {
  CONDITIONS,
  ConditionSchema,
  conditionKindOf,
  goesByTravel,
  holds,
  namedCondition,
  partsThatMustHold,
  printCondition,
  soughtBy,
  tellCondition,
} from "./conditionTable";
export { parseCondition } from "./parseCondition";
