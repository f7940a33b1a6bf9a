import { measure, side } from "./blob";
import { button } from "./button";
import type { ConditionKind } from "./ConditionKind";
import { CONDITIONS } from "./conditionTable";
import { count } from "./count";
import { feature } from "./feature";
import { list } from "./list";
import { all, any, not } from "./logic";
import { seen } from "./seen";

// What follows a target's name is looked for in this order: that it is seen comes last.
for (const kind of [feature, count, list, button, measure, side, seen, all, any, not])
  CONDITIONS.add(kind as unknown as ConditionKind);

export type { ConditionKind, NameOf } from "./ConditionKind";
export { BLOB_MEASURES, type Blob, type BlobMeasure, type Condition, type Moment } from "./condition";
export { ConditionSchema } from "./conditionSchema";
export {
  CONDITIONS,
  conditionKindOf,
  holds,
  namedCondition,
  partsThatMustHold,
  printCondition,
  tellCondition,
} from "./conditionTable";
export { parseCondition } from "./parseCondition";
