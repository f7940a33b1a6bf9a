import * as z from "zod";
import { type ModeId, ModeIdSchema } from "../../names";
import { stepKind } from "./StepKind";

const goSchema = z.strictObject({ step: z.literal("go to"), mode: ModeIdSchema });

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
  begin: ({ mode }, scene) => scene.goTo(mode),
  code: ({ mode }, to) => ({ begin: `next_mode = ${to.mode(mode)}` }),
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
  begin: (_, scene) => scene.finish(),
  code: () => ({ begin: "finish()" }),
  guides: true,
  facts: () => ({ leadsTo: "finish", leavesMoving: false }),
});
