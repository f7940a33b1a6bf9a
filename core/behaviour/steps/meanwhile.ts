import * as z from "zod";
import { parseStepFrom, printStep, Step, tellStep } from ".";
import type { StepKind } from "./StepKind";

/** A step that runs beside those that follow it. */
export interface Meanwhile {
  step: "meanwhile";
  does: Step;
}

const refuses = (step: Step) => `“${step.step}” decides what comes next, so it cannot run meanwhile`;

const schema: z.ZodType<Meanwhile> = z.strictObject({
  step: z.literal("meanwhile"),
  does: z
    .lazy(() => Step)
    .superRefine((step, context) => {
      if (GUIDES.has(step.step)) context.addIssue({ code: "custom", message: refuses(step) });
    }),
});

/** Steps that say what comes next have nothing to run beside. */
const GUIDES = new Set<string>(["meanwhile", "wait", "do", "replay", "go to", "finish"]);

/** Starts a step and goes on at once; an output has one owner, the latest. */
export const meanwhile: StepKind<Meanwhile> = {
  step: "meanwhile",
  schema,
  opening: "meanwhile",
  templates: ["meanwhile {step tone C4 for 0.5 s}"],
  parse(reader) {
    const does = parseStepFrom(reader);
    return GUIDES.has(does.step) ? reader.fail(`${refuses(does)}; another step`) : { step: "meanwhile", does };
  },
  print: ({ does }) => `meanwhile ${printStep(does)}`,
  tell: ({ does }, name) => `meanwhile ${tellStep(does, name)}`,
  begin: ({ does }, scene) => scene.beside(does),
};
