export type { ConditionKind, NameOf, Sought } from "./ConditionKind";
export { BLOB_MEASURES, type Blob, type BlobMeasure, type Condition, type Moment } from "./condition";
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
