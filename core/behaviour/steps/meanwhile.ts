import * as z from "zod";
import type { PhraseReader } from "../../phrases";
import { beside } from "../engine/carryOn";
import type { NameVisitor } from "../Visitor";
import type { NameOf, StepKind } from "./StepKind";

/** A step of whatever kind. */
export type AnyStep = { step: string };

/** A step that runs beside those that follow it. */
export interface Meanwhile {
  step: "meanwhile";
  does: AnyStep;
}

/** What the table does with a step of whatever kind. */
export interface StepTable {
  schema: z.ZodType<AnyStep>;
  kindOf(step: AnyStep): StepKind<AnyStep>;
  parse(reader: PhraseReader): AnyStep;
  print(step: AnyStep): string;
  tell(step: AnyStep, name: NameOf): string;
  named(step: AnyStep, visit: NameVisitor): AnyStep;
  paced(step: AnyStep, to: (speed: number) => number): AnyStep;
}

const refuses = (step: AnyStep) => `“${step.step}” decides what comes next, so it cannot run meanwhile`;

/** Starts a step and goes on at once; an output has one owner, the latest. */
export const meanwhileKind = ({
  schema,
  kindOf,
  parse,
  print,
  tell,
  named,
  paced,
}: StepTable): StepKind<Meanwhile> => ({
  key: "meanwhile",
  schema: z.strictObject({
    step: z.literal("meanwhile"),
    does: schema.superRefine((step, context) => {
      if (kindOf(step).guides) context.addIssue({ code: "custom", message: refuses(step) });
    }),
  }),
  opening: "meanwhile",
  templates: ["meanwhile {step tone C4 for 0.5 s}"],
  parse(reader) {
    const does = reader.deeper(() => parse(reader));
    return kindOf(does).guides ? reader.fail(`${refuses(does)}; another step`) : { step: "meanwhile", does };
  },
  print: ({ does }) => `meanwhile ${print(does)}`,
  tell: ({ does }, name) => `meanwhile ${tell(does, name)}`,
  acts: { meanwhile: { takes: [], begin: beside } },
  row: ({ does }) => ({ act: "meanwhile", args: [], step: does }),
  guides: true,
  named: ({ does }, visit) => ({ step: "meanwhile", does: named(does, visit) }),
  paced: ({ does }, to) => ({ step: "meanwhile", does: paced(does, to) }),
  facts: ({ does }) => ({ beside: does }),
});
