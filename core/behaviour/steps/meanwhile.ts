import * as z from "zod";
import type { StepKind } from "./StepKind";
import { type AnyStep, kindOf, namedStep, parseStepFrom, printStep, StepSchema, tellStep } from "./stepTable";

/** A step that runs beside those that follow it. */
export interface Meanwhile {
  step: "meanwhile";
  does: AnyStep;
}

const refuses = (step: AnyStep) => `“${step.step}” decides what comes next, so it cannot run meanwhile`;

const schema: z.ZodType<Meanwhile> = z.strictObject({
  step: z.literal("meanwhile"),
  does: StepSchema.superRefine((step, context) => {
    if (kindOf(step).guides) context.addIssue({ code: "custom", message: refuses(step) });
  }),
});

/** Starts a step and goes on at once; an output has one owner, the latest. */
export const meanwhile: StepKind<Meanwhile> = {
  key: "meanwhile",
  schema,
  opening: "meanwhile",
  templates: ["meanwhile {step tone C4 for 0.5 s}"],
  parse(reader) {
    const does = reader.deeper(() => parseStepFrom(reader));
    return kindOf(does).guides ? reader.fail(`${refuses(does)}; another step`) : { step: "meanwhile", does };
  },
  print: ({ does }) => `meanwhile ${printStep(does)}`,
  tell: ({ does }, name) => `meanwhile ${tellStep(does, name)}`,
  begin: ({ does }, scene) => scene.beside(does),
  guides: true,
  named: ({ does }, visit) => ({ step: "meanwhile", does: namedStep(does, visit) }),
  facts: ({ does }) => ({ beside: does }),
};
