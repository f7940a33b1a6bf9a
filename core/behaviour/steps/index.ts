import * as z from "zod";
import { type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../../phrases";
import { count } from "./count";
import { doRoutine } from "./do";
import { drive } from "./drive";
import { finish, goTo } from "./ending";
import { follow } from "./follow";
import { lamp, lampsOff } from "./lamp";
import { jot, replay } from "./lists";
import { log } from "./log";
import { type Meanwhile, meanwhile } from "./meanwhile";
import type { NameOf, StepKind } from "./StepKind";
import { say } from "./say";
import { servo } from "./servo";
import { show } from "./show";
import { stop } from "./stop";
import { tone } from "./tone";
import { turn } from "./turn";
import { wait } from "./wait";
import { wheels } from "./wheels";

/** Every kind of step. A new one is one more entry here. */
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
/** One thing that the robot does. */
export type Step = StepOf<(typeof SIMPLE)[number]> | Meanwhile;

/** The kinds, for menus: opening words and templates of each. */
export const STEP_KINDS = [...SIMPLE, meanwhile] as readonly unknown[] as readonly StepKind<Step>[];
export const Step: z.ZodType<Step> = z.union(STEP_KINDS.map((kind) => kind.schema));

const BY_STEP = new Map(STEP_KINDS.map((kind) => [kind.step, kind]));

/** The table entry of a step. */
export function kindOf(step: Step): StepKind<Step> {
  return BY_STEP.get(step.step) as StepKind<Step>;
}

/** Reads a phrase like `drive 35 % for 20 cm`. */
export function parseStep(phrase: string, names: Names): { value: Step } | { problem: PhraseProblem } {
  return parsePhrase(phrase, names, parseStepFrom);
}

/** Reads a step where a reader stands. */
export function parseStepFrom(reader: PhraseReader): Step {
  reader.offer(STEP_KINDS.map((k) => k.opening));
  const kind = STEP_KINDS.find((k) => k.opening === reader.peekWord());
  if (kind === undefined)
    return reader.failWord(
      "a step",
      STEP_KINDS.map((k) => k.opening),
    );
  reader.take(kind.opening);
  return kind.parse(reader);
}

/** The canonical phrase of a step: `parseStep` gives back an equal step. */
export function printStep(step: Step): string {
  return kindOf(step).print(step);
}

/** What a step does, in plain words. */
export function tellStep(step: Step, name: NameOf): string {
  return kindOf(step).tell(step, name);
}

/** Whether a step has no end of its own: what it began goes on. */
export function stepIsEndless(step: Step): boolean {
  return (
    kindOf(step).endless?.(step) === true ||
    ((step.step === "drive" || step.step === "wheels") && step.travel === undefined)
  );
}
