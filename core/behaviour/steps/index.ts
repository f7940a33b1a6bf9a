import type * as z from "zod";
import { type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../../phrases";
import type { StepKind } from "./StepKind";
import {
  factsOf,
  type InList,
  ListedStepSchema,
  parseStepFrom as parseAny,
  type SIMPLE,
  StepSchema,
} from "./stepTable";

type StepOf<K> = K extends StepKind<infer S> ? S : never;
type Simple = StepOf<(typeof SIMPLE)[number]>;
/** One thing that the robot does. */
export type Step = Simple | { step: "meanwhile"; does: Simple };
export const Step = StepSchema as z.ZodType<Step>;
/** A step in a list. */
export type ListedStep = Step & InList;
export const ListedStep = ListedStepSchema as z.ZodType<ListedStep>;

export type { StepFacts, StepKind } from "./StepKind";
export {
  factsOf,
  kindOf,
  namedStep,
  needOf,
  pacedStep,
  printStep,
  STEPS,
  type Takes,
  tellStep,
  turnedStep,
  waitingStep,
} from "./stepTable";

/** Reads a phrase like `drive 35 % for 20 cm`. */
export function parseStep(phrase: string, names: Names): { value: Step } | { problem: PhraseProblem } {
  return parsePhrase(phrase, names, parseStepFrom);
}

/** Reads a step where a reader stands. */
export const parseStepFrom = (reader: PhraseReader): Step => parseAny(reader) as Step;

/** Whether a step has no end of its own: what it began goes on. */
export const stepIsEndless = (step: Step): boolean => factsOf(step).goesOn === true;
