export type { ConditionKind, NameOf } from "./ConditionKind";
export { BLOB_MEASURES, type Blob, type BlobMeasure, type Condition, type Moment } from "./condition";
export {
  CONDITIONS,
  ConditionSchema,
  conditionKindOf,
  holds,
  namedCondition,
  partsThatMustHold,
  printCondition,
  tellCondition,
} from "./conditionTable";
export { parseCondition } from "./parseCondition";
