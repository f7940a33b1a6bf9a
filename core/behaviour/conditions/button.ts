import * as z from "zod";
import type { ConditionKind } from "./ConditionKind";
import type { Condition } from "./condition";

type Held = Extract<Condition, { button: unknown }>;

const schema: z.ZodType<Held> = z.strictObject({ button: z.string() });

/** A button of the robot is held down. */
export const button: ConditionKind<Held> = {
  key: "button",
  schema,
  parse: (reader, of) =>
    of.sensor === undefined && reader.skip("button") ? { button: reader.takeName("buttons") } : undefined,
  print: ({ button }) => `button ${button}`,
  tell: ({ button }, name) => `the button ${name(button)} is held down`,
  asks: { button: { takes: ["button"], ask: (e, button) => e.pressed[button] === 1 } },
  rows: ({ button }, to) => [{ act: "button", args: [to.button(button)] }],
  named: ({ button }, visit) => ({ button: visit("button", button, "button") }),
};
