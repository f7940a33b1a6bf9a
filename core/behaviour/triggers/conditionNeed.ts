import { type Condition, conditionKindOf, printCondition } from "../conditions";
import type { Need } from "./TriggerKind";

/** A condition as something that a response needs. */
export function conditionNeed(condition: Condition): Need {
  const kind = conditionKindOf(condition);
  const { value, short } = kind;
  return {
    text: printCondition(condition),
    holds: (scene) => scene.holds(condition),
    ...(value && { value: (scene) => value.call(kind, condition, scene) }),
    ...(short && { short: (scene) => short.call(kind, condition, scene) }),
  };
}
