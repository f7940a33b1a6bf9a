import * as z from "zod";
import type { Coding } from "../Coding";
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
import { codedSeen, type FiredBy, seenFires, type TriggerKind, type TriggerScene } from "./TriggerKind";

/** Of the targets that a condition looks for, the first that is seen. */
function firstSeen(condition: Condition, scene: TriggerScene): FiredBy | undefined {
  for (const { targets, sensor } of soughtBy(condition)) {
    const fired = seenFires(scene, targets, sensor);
    if (fired !== undefined) return fired;
  }
  return undefined;
}

/** 1 while a condition holds, with the first target that it looks for and that is seen, as code. */
const codedCondition = (condition: Condition, to: Coding): string =>
  [
    `if not (${to.condition(condition)})`,
    "  return nan",
    ...codedSeen(to, soughtBy(condition), () => ["return 1.0"]),
    "return 1.0",
  ].join("\n");

const becomesSchema = z.strictObject({ becomes: ConditionSchema });
type Becomes = z.infer<typeof becomesSchema>;

/** A condition begins to hold. */
export const becomes: TriggerKind<Becomes> = {
  key: "becomes",
  schema: becomesSchema,
  onEdge: true,
  comesByItself: true,
  episode: ({ becomes }, scene) => (isTrue(becomes, scene) ? 1 : undefined),
  templates: ["button {buttons} pressed", "becomes {counters} >= {number 2}", "becomes {condition}"],
  parse(reader) {
    // A button is what most begin with: it has words of its own.
    if (reader.skip("button")) {
      const button = reader.takeName("buttons");
      reader.take("pressed");
      return { becomes: { button } };
    }
    return reader.skip("becomes") ? { becomes: parseCondition(reader) } : undefined;
  },
  print: ({ becomes }) =>
    "button" in becomes ? `button ${becomes.button} pressed` : `becomes ${printCondition(becomes)}`,
  tell: ({ becomes }, name) =>
    "button" in becomes
      ? `when the button ${name(becomes.button)} is pressed`
      : `as soon as ${tellCondition(becomes, name)}`,
  named: ({ becomes }, visit) => ({ becomes: namedCondition(becomes, visit) }),
  condition: ({ becomes }) => becomes,
  answers: ({ becomes }) => soughtBy(becomes),
  code: ({ becomes }, to) => codedCondition(becomes, to),
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
  templates: ["holds {condition}"],
  parse: (reader) => (reader.skip("holds") ? { holds: parseCondition(reader) } : undefined),
  print: ({ holds }) => `holds ${printCondition(holds)}`,
  tell: ({ holds }, name) => `while ${tellCondition(holds, name)}`,
  named: ({ holds }, visit) => ({ holds: namedCondition(holds, visit) }),
  condition: ({ holds }) => holds,
  answers: ({ holds }) => soughtBy(holds),
  code: ({ holds }, to) => codedCondition(holds, to),
  firedBy: ({ holds }, scene) => firstSeen(holds, scene),
  needs: ({ holds }) => partsThatMustHold(holds).map(conditionNeed),
};
