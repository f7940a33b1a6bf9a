import { Id } from "../names";
import {
  type Input,
  type Names,
  NO_NAMES,
  type PhraseProblem,
  type PhraseValue,
  parsePhrase,
  takeAnyInput,
} from "../phrases";
import type { Given } from "./given";
import { type ListedStep, namedStep, parseStepFrom, printStep, type Step, type Takes } from "./steps";

/** Gives the names in a step, so that its phrase can be read again without its project. */
function namesIn(step: Step): Names {
  const found: Record<string, string[]> = {};
  namedStep(step, (kind, id) => {
    found[`${kind}s`] = [...(found[`${kind}s`] ?? []), id];
    return id;
  });
  const takes = step.step === "do" ? { [step.routine]: (step.with ?? []).map(inputOf) } : {};
  return { ...NO_NAMES, ...found, cameras: ["camera"], takes };
}
const inputOf = ({ input, kind, value }: Given): Input => ({ name: input, kind, value });

/** A step's phrase, and the values in it with their places. */
export function valuesIn(step: Step): { phrase: string; values: readonly PhraseValue[] } {
  const phrase = printStep(step);
  const read = parsePhrase(phrase, namesIn(step), (reader) => {
    parseStepFrom(reader);
    return reader.values;
  });
  return { phrase, values: "problem" in read ? [] : read.value };
}

/** The inputs of a phrase by the places of the values that they stand for; undefined where it takes none. */
const takesOf = (values: readonly { input?: string }[]): Takes | undefined => {
  const takes = values.flatMap(({ input }, i) => (input === undefined ? [] : [[String(i), input]]));
  return takes.length === 0 ? undefined : Object.fromEntries(takes);
};

/** Reads a step of a list, where a routine's inputs may stand for values. */
export function parseListedStep(
  phrase: string,
  names: Names,
  inputs: readonly Input[] = [],
): { value: Step & { takes?: Takes } } | { problem: { message: string; column: number } } {
  const read = (text: string) =>
    parsePhrase(text, { ...names, inputs }, (reader) => ({ step: parseStepFrom(reader), values: reader.values }));
  const found = read(phrase);
  if ("problem" in found) return found;
  const { step, values } = found.value;
  const takes = takesOf(values);
  if (takes === undefined) return { value: step };
  // As it is printed, each input has to stand where it stood.
  const again = read(withInputs(printStep(step), names, takes));
  const isSame =
    "value" in again &&
    JSON.stringify([again.value.step, takesOf(again.value.values)]) === JSON.stringify([step, takes]);
  if (isSame) return { value: { ...step, takes } };
  const [first] = Object.values(takes);
  const from = inputs.find(({ name }) => name === first)?.value;
  return {
    problem: {
      message: `“${first}” starts from ${from}, which “${printStep(step)}” does not say; let it start from another value`,
      column: values.find(({ input }) => input !== undefined)?.from ?? 1,
    },
  };
}

/** A step's phrase with its inputs in the places of the values that they stand for. */
export function withInputs(phrase: string, names: Names, takes: Takes | undefined): string {
  if (takes === undefined) return phrase;
  const read = parsePhrase(phrase, { ...names, inputs: [] }, (reader) => {
    parseStepFrom(reader);
    return reader.values;
  });
  if ("problem" in read) return phrase;
  return read.value.reduceRight(
    (text, { from, to }, i) => (takes[i] === undefined ? text : text.slice(0, from) + takes[i] + text.slice(to)),
    phrase,
  );
}

/** The step with values in the places of its inputs, or what is wrong with one. */
export function filledStep(step: ListedStep, values: ReadonlyMap<string, string>): ListedStep | { problem: string } {
  const { takes, ...rest } = step;
  if (takes === undefined) return step;
  const filled = new Map(Object.entries(takes).map(([place, input]) => [Number(place), values.get(input) ?? ""]));
  const read = parsePhrase(printStep(rest as Step), { ...namesIn(rest as Step), filled }, parseStepFrom);
  if ("problem" in read) return { problem: read.problem.message };
  return { ...read.value, id: step.id };
}

/** The steps of a behaviour: those of its modes and responses, and its routines with what they take. */
interface Stepped {
  readonly modes: readonly {
    readonly entering: readonly ListedStep[];
    readonly responses: readonly { readonly steps: readonly ListedStep[] }[];
  }[];
  readonly routines: readonly {
    readonly id: string;
    readonly name: string;
    readonly inputs?: readonly Input[] | undefined;
    readonly steps: readonly ListedStep[];
  }[];
}

/** A routine as it is done: with the values from which it starts, or with others that it is given. */
export interface DoneRoutine {
  /** The id of the routine. */
  of: string;
  /** Its id, with a number where it is given values of its own. */
  key: string;
  name: string;
  steps: readonly ListedStep[];
}

/** Tells done routines apart. */
const keyOf = (id: string, values: ReadonlyMap<string, string>) => JSON.stringify([id, ...values]);

/** At most so many routines with their values: each is written out for the robot. */
const MOST_DONE = 500;

/** Every routine as it is done somewhere, and where each is found; or what is wrong with a value that one is given. */
export class DoneRoutines {
  readonly all: DoneRoutine[] = [];
  private readonly places = new Map<string, number>();
  /** The first thing that is wrong: with the routine and step in which it is. */
  problem: { message: string; routine: string } | undefined;

  constructor(private readonly behaviour: Stepped) {
    for (const { id } of behaviour.routines) this.place(id);
    for (const { entering, responses } of behaviour.modes) {
      this.follow(entering);
      for (const { steps } of responses) this.follow(steps);
    }
    // Routines that these do are added as they are come to.
    for (let at = 0; at < this.all.length && this.problem === undefined; at++) this.follow(this.all[at].steps);
  }

  /** The place of a routine with the values that it is given; −1 where there is none. */
  place(id: string, given: readonly Given[] = []): number {
    const routine = this.behaviour.routines.find((one) => one.id === id);
    if (routine === undefined) return -1;
    const values = new Map((routine.inputs ?? []).map(({ name, value }) => [name, value]));
    for (const { input, value } of given) if (values.has(input)) values.set(input, value);
    const known = this.places.get(keyOf(id, values));
    if (known !== undefined) return known;
    if (this.all.length >= MOST_DONE) {
      this.problem ??= { message: `routines are given more than ${MOST_DONE} sets of values`, routine: id };
      return -1;
    }
    const steps = routine.steps.map((step) => {
      const filled = filledStep(step, values);
      if (!("problem" in filled)) return filled;
      this.problem ??= { message: filled.problem, routine: id };
      return step;
    });
    const own = given.length === 0 ? "" : ` with ${given.map(({ input, value }) => `${input} ${value}`).join(", ")}`;
    this.places.set(keyOf(id, values), this.all.length);
    const forms = this.all.filter(({ of }) => of === id).length;
    return (
      this.all.push({ of: id, key: forms === 0 ? id : `${id}-${forms + 1}`, name: `${routine.name}${own}`, steps }) - 1
    );
  }

  private follow(steps: readonly Step[]): void {
    for (const step of steps) if (step.step === "do") this.place(step.routine, step.with);
  }
}

/** Reads `time 2 s`: a name for an input, and the value that it starts from, which says its kind. */
export function parseInput(text: string, names: Names): { value: Input } | { problem: PhraseProblem } {
  return parsePhrase(text, names, (reader) => {
    const column = reader.column;
    const name = reader.takeAnyWord("a name for it");
    const checked = Id.safeParse(name);
    if (!checked.success) reader.failSaying(`“${name}” cannot be its name: ${checked.error.issues[0].message}`, column);
    return { name, ...takeAnyInput(reader) };
  });
}
