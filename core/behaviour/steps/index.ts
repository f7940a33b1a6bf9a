import type * as z from "zod";
import { type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../../phrases";
import { count } from "./count";
import { doRoutine } from "./do";
import { drive } from "./drive";
import { finish, goTo } from "./ending";
import { follow } from "./follow";
import { lamp, lampsOff } from "./lamp";
import { jot, replay } from "./lists";
import { log } from "./log";
import { meanwhile } from "./meanwhile";
import type { StepKind } from "./StepKind";
import { say } from "./say";
import { servo } from "./servo";
import { show } from "./show";
import { type AnyStep, factsOf, parseStepFrom as parseAny, STEPS, StepSchema } from "./stepTable";
import { stop } from "./stop";
import { tone } from "./tone";
import { turn } from "./turn";
import { wait } from "./wait";
import { wheels } from "./wheels";

const SIMPLE = [
  drive,
  wheels,
  turn,
  follow,
  stop,
  wait,
  lamp,
  lampsOff,
  tone,
  say,
  show,
  servo,
  count,
  jot,
  replay,
  doRoutine,
  log,
  goTo,
  finish,
] as const;

type StepOf<K> = K extends StepKind<infer S> ? S : never;
type Simple = StepOf<(typeof SIMPLE)[number]>;
/** One thing that the robot does. */
export type Step = Simple | { step: "meanwhile"; does: Simple };
export const Step = StepSchema as z.ZodType<Step>;

for (const kind of [...SIMPLE, meanwhile]) STEPS.add(kind as unknown as StepKind<AnyStep>);

export type { StepFacts, StepKind } from "./StepKind";
export { factsOf, kindOf, namedStep, printStep, STEPS, tellStep } from "./stepTable";

/** Reads a phrase like `drive 35 % for 20 cm`. */
export function parseStep(phrase: string, names: Names): { value: Step } | { problem: PhraseProblem } {
  return parsePhrase(phrase, names, parseStepFrom);
}

/** Reads a step where a reader stands. */
export const parseStepFrom = (reader: PhraseReader): Step => parseAny(reader) as Step;

/** Whether a step has no end of its own: what it began goes on. */
export const stepIsEndless = (step: Step): boolean => factsOf(step).goesOn === true;
