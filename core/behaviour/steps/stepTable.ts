import * as z from "zod";
import { Table, zodProblem } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { NameVisitor } from "../Visitor";
import type { NameOf, StepFacts, StepKind } from "./StepKind";

/** A step of whatever kind. */
export type AnyStep = { step: string };

/** Every kind of step; `index.ts` puts them in. */
export const STEPS = new Table<StepKind<AnyStep>>([]);

/** The schema of a step: whatever the table knows. */
export const StepSchema: z.ZodType<AnyStep> = z.lazy(() =>
  z.union(STEPS.schemas as unknown as [z.ZodType<AnyStep>, z.ZodType<AnyStep>]),
);

/** The table entry of a step. */
export const kindOf = (step: AnyStep): StepKind<AnyStep> => STEPS.get(step.step);

/** The canonical phrase of a step: `parseStep` gives back an equal step. */
export const printStep = (step: AnyStep): string => kindOf(step).print(step);

/** What a step does, in plain words. */
export const tellStep = (step: AnyStep, name: NameOf): string => kindOf(step).tell(step, name);

/** What others need to know of a step. */
export const factsOf = (step: AnyStep): StepFacts => kindOf(step).facts?.(step) ?? {};

/** The same step with every name as the visitor gives it. */
export const namedStep = <S extends AnyStep>(step: S, visit: NameVisitor): S =>
  (kindOf(step).named?.(step, visit) as S | undefined) ?? step;

/** Reads a step where a reader stands. What is read can be kept: the schema of its kind is asked, too. */
export function parseStepFrom(reader: PhraseReader): AnyStep {
  const openings = STEPS.entries.map((kind) => kind.opening);
  reader.offer(openings);
  const kind = STEPS.entries.find((k) => k.opening === reader.peekWord());
  if (kind === undefined) return reader.failWord("a step", openings);
  reader.take(kind.opening);
  const step = kind.parse(reader);
  const checked = kind.schema.safeParse(step);
  if (!checked.success) reader.refuse(zodProblem(checked.error));
  return step;
}
