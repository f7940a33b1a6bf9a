import * as z from "zod";
import type { int } from "../../arithmetic";
import { type ModeId, ModeIdSchema } from "../../names";
import type { Engine } from "../engine/Engine";
import { endBehaviour } from "../engine/saying";
import { stepKind } from "./StepKind";

const goSchema = z.strictObject({ step: z.literal("go to"), mode: ModeIdSchema });

/** The next mode begins once the step is through. */
function goOnTo(e: Engine, mode: int): void {
  e.nextMode = mode;
}

/** Changes the mode; the steps after it are not reached. */
export const goTo = stepKind<z.infer<typeof goSchema>>({
  key: "go to",
  schema: goSchema,
  opening: "go",
  templates: ["go to {modes}"],
  parse(reader) {
    reader.take("to");
    return { step: "go to", mode: reader.takeName("modes") as ModeId };
  },
  print: ({ mode }) => `go to ${mode}`,
  tell: ({ mode }, name) => `go on to ${name(mode)}`,
  acts: { "go to": { takes: ["mode"], begin: goOnTo } },
  row: ({ mode }, to) => ({ act: "go to", args: [to.mode(mode)] }),
  guides: true,
  named: (step, visit) => ({ ...step, mode: visit("mode", step.mode, "mode") }),
  facts: ({ mode }) => ({ leadsTo: mode }),
});

const finishSchema = z.strictObject({ step: z.literal("finish") });

/** Ends the run: the wheels brake and nothing more is answered. */
export const finish = stepKind<z.infer<typeof finishSchema>>({
  key: "finish",
  schema: finishSchema,
  opening: "finish",
  templates: ["finish"],
  parse: () => ({ step: "finish" }),
  print: () => "finish",
  tell: () => "finish",
  acts: { finish: { takes: [], begin: endBehaviour } },
  row: () => ({ act: "finish", args: [] }),
  guides: true,
  facts: () => ({ leadsTo: "finish", leavesMoving: false }),
});
