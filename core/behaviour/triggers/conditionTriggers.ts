import * as z from "zod";
import { type int, type num, whole } from "../../arithmetic";
import {
  type Condition,
  ConditionSchema,
  namedCondition,
  parseCondition,
  partsThatMustHold,
  printCondition,
  soughtBy,
  tellCondition,
} from "../conditions";
import { holdsAt } from "../engine/ask";
import type { Engine } from "../engine/Engine";
import { sees } from "../engine/eyes";
import type { Row, RowMaker } from "../rowKinds";
import { conditionNeed } from "./conditionNeed";
import type { TriggerKind } from "./TriggerKind";

/** A row of a condition: behind it stand the pairs of sensor and label that it looks for, then the condition. */
function conditionRow(act: string, condition: Condition, to: RowMaker): Row {
  const pairs = soughtBy(condition).flatMap(({ targets, sensor }) => {
    const eye = to.eye(sensor);
    return eye < 0 ? [] : targets.map((target) => [eye, to.label(target)]);
  });
  return { act, args: [pairs.length], numbers: pairs.flat(), conditions: condition };
}

/** 1 while a condition holds, with the first target that it looks for and that is seen. */
function whileHolds(e: Engine, pairs: int, first: int): num {
  if (!holdsAt(e, first + 2 * pairs)) return Number.NaN;
  for (let i = 0; i < pairs; i++) {
    const eye = whole(e.p.rows[first + 2 * i]);
    const label = whole(e.p.rows[first + 2 * i + 1]);
    if (e.byLabel !== 0 || !sees(e, eye, label)) continue;
    e.byEye = eye;
    e.byLabel = label;
  }
  return 1;
}

const becomesSchema = z.strictObject({ becomes: ConditionSchema });
type Becomes = z.infer<typeof becomesSchema>;

/** A condition begins to hold. */
export const becomes: TriggerKind<Becomes> = {
  key: "becomes",
  schema: becomesSchema,
  onEdge: true,
  comesByItself: true,
  judge: { takes: ["pairs"], when: whileHolds },
  row: ({ becomes }, to) => conditionRow("becomes", becomes, to),
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
  judge: { takes: ["pairs"], when: whileHolds },
  row: ({ holds }, to) => conditionRow("holds", holds, to),
  templates: ["holds {condition}"],
  parse: (reader) => (reader.skip("holds") ? { holds: parseCondition(reader) } : undefined),
  print: ({ holds }) => `holds ${printCondition(holds)}`,
  tell: ({ holds }, name) => `while ${tellCondition(holds, name)}`,
  named: ({ holds }, visit) => ({ holds: namedCondition(holds, visit) }),
  condition: ({ holds }) => holds,
  answers: ({ holds }) => soughtBy(holds),
  needs: ({ holds }) => partsThatMustHold(holds).map(conditionNeed),
};
