import * as z from "zod";
import { pushRoutine } from "../engine/pushed";
import { stepKind } from "./StepKind";

const schema = z.strictObject({
  step: z.literal("do"),
  routine: z.string(),
  times: z.number().int().min(2).max(1000).optional(),
});

/** A routine's steps, once or several times. */
export const doRoutine = stepKind<z.infer<typeof schema>>({
  key: "do",
  schema,
  opening: "do",
  templates: ["do {routines}", "do {routines} {n 3} times"],
  parse(reader) {
    const routine = reader.takeName("routines");
    if (!reader.peekIs("number")) return { step: "do", routine };
    const times = reader.takeCount("how many times", 1000);
    reader.take("times");
    return times === 1 ? { step: "do", routine } : { step: "do", routine, times };
  },
  print: ({ routine, times }) => `do ${routine}${times === undefined ? "" : ` ${times} times`}`,
  tell: ({ routine, times }) => `do the routine ${routine}${times === undefined ? "" : ` ${times} times`}`,
  acts: { do: { takes: ["routine", "times"], begin: pushRoutine } },
  row: ({ routine, times = 1 }, to) => ({ act: "do", args: [to.routine(routine), times] }),
  guides: true,
  named: (step, visit) => ({ ...step, routine: visit("routine", step.routine, "routine") }),
  facts: ({ routine }) => ({ does: routine }),
});
