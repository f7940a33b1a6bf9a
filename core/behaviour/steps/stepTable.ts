import * as z from "zod";
import { Id, listed, type StepId, StepIdSchema, Table, zodProblem } from "../../names";
import type { PhraseReader } from "../../phrases";
import type { Ability } from "../Machine";
import type { NameVisitor } from "../Visitor";
import { count } from "./count";
import { doRoutine } from "./do";
import { drive } from "./drive";
import { finish, goTo } from "./ending";
import { follow } from "./follow";
import { gate, send } from "./gate";
import { lamp, lampsOff } from "./lamp";
import { jot, replay } from "./lists";
import { log } from "./log";
import { type AnyStep, meanwhileKind } from "./meanwhile";
import type { NameOf, StepFacts, StepKind } from "./StepKind";
import { say } from "./say";
import { servo } from "./servo";
import { show } from "./show";
import { stop } from "./stop";
import { tone } from "./tone";
import { tune } from "./tune";
import { turn } from "./turn";
import { wait } from "./wait";
import { wheels } from "./wheels";

export const SIMPLE = [
  drive,
  wheels,
  turn,
  follow,
  stop,
  wait,
  lamp,
  lampsOff,
  tone,
  tune,
  say,
  show,
  servo,
  gate,
  send,
  count,
  jot,
  replay,
  doRoutine,
  log,
  goTo,
  finish,
] as const;

/** The schema of a step: whatever the table knows. */
export const StepSchema: z.ZodType<AnyStep> = z.lazy(() =>
  z.union(STEPS.schemas as unknown as [z.ZodType<AnyStep>, z.ZodType<AnyStep>]),
);

/** Every kind of step. */
export const STEPS = new Table<StepKind<AnyStep>>([
  ...SIMPLE,
  meanwhileKind({
    schema: StepSchema,
    kindOf,
    parse: parseStepFrom,
    print: printStep,
    tell: tellStep,
    named: namedStep,
    paced: pacedStep,
  }),
] as readonly unknown[] as readonly StepKind<AnyStep>[]);

/** Inputs that a routine's step takes, by the places of the values that they stand for, among all of its phrase. */
const Takes = z.record(z.string().regex(/^\d{1,2}$/, "a place is a number from 0"), Id);
export type Takes = z.infer<typeof Takes>;
/** The fields that a step has in a list alone. */
export interface InList {
  id: StepId;
  takes?: Takes | undefined;
}

/** The schema of a step in a list: whatever the table knows, with an id. */
export const ListedStepSchema: z.ZodType<AnyStep & InList> = z.union(
  STEPS.schemasAs((schema) => listed(schema, StepIdSchema, { takes: Takes.optional() })) as unknown as [
    z.ZodType<AnyStep & InList>,
  ],
);

/** The table entry of a step. */
export function kindOf(step: AnyStep): StepKind<AnyStep> {
  return STEPS.get(step.step);
}

/** The step that a kind made of another, with the id of that and what it takes: in a list it stays the same thing. */
const madeOf = <S extends AnyStep>(step: S, made: AnyStep | undefined): S =>
  made === undefined
    ? step
    : ({
        ...made,
        ...("id" in step && { id: step.id }),
        ...("takes" in step && step.takes !== undefined && { takes: step.takes }),
      } as S);

/** The same step at another speed, if it goes straight on: `to` is given its share of top speed, −1..1. */
export function pacedStep<S extends AnyStep>(step: S, to: (speed: number) => number): S {
  return madeOf(step, kindOf(step).paced?.(step, to));
}

/** The same step, but a servo is turned no farther than a range. */
export const turnedStep = <S extends AnyStep>(step: S, low: number, high: number): S =>
  madeOf(step, kindOf(step).turnedWithin?.(step, low, high));

/** The same step, but it waits no longer than so many ms. */
export const waitingStep = <S extends AnyStep>(step: S, ms: number): S =>
  madeOf(step, kindOf(step).waitingAtMost?.(step, ms));

/** The canonical phrase of a step: `parseStep` gives back an equal step. */
export function printStep(step: AnyStep): string {
  return kindOf(step).print(step);
}

/** What a step does, in plain words. */
export function tellStep(step: AnyStep, name: NameOf): string {
  return kindOf(step).tell(step, name);
}

/** What others need to know of a step. */
export const factsOf = (step: AnyStep): StepFacts => kindOf(step).facts?.(step) ?? {};

/** What a step needs of the machine; undefined where any can carry it out. */
export const needOf = (step: AnyStep): Ability | undefined => kindOf(factsOf(step).beside ?? step).needs;

/** The same step with every name as the visitor gives it. */
export function namedStep<S extends AnyStep>(step: S, visit: NameVisitor): S {
  return madeOf(step, kindOf(step).named?.(step, visit));
}

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
