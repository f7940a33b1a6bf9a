import * as z from "zod";
import {
  type Condition,
  ConditionSchema,
  holds as isTrue,
  namedCondition,
  parseCondition,
  partsThatMustHold,
  printCondition,
  soughtBy,
  tellCondition,
} from "../conditions";
import { conditionNeed } from "./conditionNeed";
import { type FiredBy, seenFires, type TriggerKind, type TriggerScene } from "./TriggerKind";

/** Of the targets that a condition looks for, the first that is seen. */
function firstSeen(condition: Condition, scene: TriggerScene): FiredBy | undefined {
  for (const { targets, sensor } of soughtBy(condition)) {
    const fired = seenFires(scene, targets, sensor);
    if (fired !== undefined) return fired;
  }
  return undefined;
}

const becomesSchema = z.strictObject({ becomes: ConditionSchema });
type Becomes = z.infer<typeof becomesSchema>;

/** A condition begins to hold. */
export const becomes: TriggerKind<Becomes> = {
  key: "becomes",
  schema: becomesSchema,
  onEdge: true,
  comesByItself: true,
  episode: ({ becomes }, scene) => (isTrue(becomes, scene) ? 1 : undefined),
  parse: (reader) => (reader.skip("becomes") ? { becomes: parseCondition(reader) } : undefined),
  print: ({ becomes }) => `becomes ${printCondition(becomes)}`,
  tell: ({ becomes }, name) => `as soon as ${tellCondition(becomes, name)}`,
  named: ({ becomes }, visit) => ({ becomes: namedCondition(becomes, visit) }),
  condition: ({ becomes }) => becomes,
  answers: ({ becomes }) => soughtBy(becomes),
  firedBy: ({ becomes }, scene) => firstSeen(becomes, scene),
  needs: ({ becomes }) => partsThatMustHold(becomes).map(conditionNeed),
};

const holdsSchema = z.strictObject({ holds: ConditionSchema });
type Holds = z.infer<typeof holdsSchema>;

/** A condition holds. */
export const holds: TriggerKind<Holds> = {
  key: "holds",
  schema: holdsSchema,
  onEdge: false,
  renews: true,
  comesByItself: true,
  isOtherwise: true,
  episode: ({ holds }, scene) => (isTrue(holds, scene) ? 1 : undefined),
  parse: (reader) => (reader.skip("holds") ? { holds: parseCondition(reader) } : undefined),
  print: ({ holds }) => `holds ${printCondition(holds)}`,
  tell: ({ holds }, name) => `while ${tellCondition(holds, name)}`,
  named: ({ holds }, visit) => ({ holds: namedCondition(holds, visit) }),
  condition: ({ holds }) => holds,
  answers: ({ holds }) => soughtBy(holds),
  firedBy: ({ holds }, scene) => firstSeen(holds, scene),
  needs: ({ holds }) => partsThatMustHold(holds).map(conditionNeed),
};
