import * as z from "zod";
import type { int, num } from "../../arithmetic";
import { type Engine, NOTE_COUNTER } from "../engine/Engine";
import { stepKind } from "./StepKind";

const schema = z.union([
  z.strictObject({
    step: z.literal("count"),
    counter: z.string(),
    add: z.number().int().min(-1_000_000).max(1_000_000),
  }),
  z.strictObject({ step: z.literal("count"), counter: z.string(), reset: z.literal(true) }),
]);

function setCounter(e: Engine, counter: int, value: num): void {
  e.counters[counter] = value;
  e.robot.note(NOTE_COUNTER, counter, 0, 0, value);
}

/** Adds to a counter, or sets it back to 0. */
export const count = stepKind<z.infer<typeof schema>>({
  key: "count",
  schema,
  opening: "count",
  templates: ["count {counters} + {n 1}", "count {counters} - {n 1}", "count {counters} reset"],
  parse(reader) {
    const counter = reader.takeName("counters");
    if (reader.skip("reset")) return { step: "count", counter, reset: true };
    const sign = reader.skip("+") ? 1 : reader.skip("-") ? -1 : reader.fail("+, - or reset");
    const amount = reader.takeAmount("a whole number");
    if (!Number.isInteger(amount) || amount > 1_000_000) reader.failNumber("a whole number up to 1000000");
    return { step: "count", counter, add: sign * amount };
  },
  print: (step) =>
    "reset" in step
      ? `count ${step.counter} reset`
      : `count ${step.counter} ${step.add < 0 ? "-" : "+"} ${Math.abs(step.add)}`,
  tell: (step) =>
    "reset" in step
      ? `set ${step.counter} back to 0`
      : `${step.add < 0 ? "take" : "add"} ${Math.abs(step.add)} ${step.add < 0 ? "from" : "to"} ${step.counter}`,
  acts: {
    count: { takes: ["counter", "add"], begin: (e, counter, add) => setCounter(e, counter, e.counters[counter] + add) },
    "count reset": { takes: ["counter"], begin: (e, counter) => setCounter(e, counter, 0) },
  },
  row: (step, to) =>
    "reset" in step
      ? { act: "count reset", args: [to.counter(step.counter)] }
      : { act: "count", args: [to.counter(step.counter), step.add] },
  named: (step, visit) => ({ ...step, counter: visit("counter", step.counter, "counter") }),
  facts: ({ counter }) => ({ changes: counter }),
});
