import type { StepId } from "../names";
import { type Input, type InputKind, NO_NAMES, parsePhrase, takeAnyInput } from "../phrases";
import type { Given } from "./given";
import { filledStep, valuesIn } from "./routines";
import type { Behaviour } from "./schema";
import { type ListedStep, printStep, type Takes } from "./steps";
import { type StepsAt, stepsAt } from "./stepsAt";

/** Steps that stand somewhere else, too, with other values. */
export interface AlikeSteps {
  /** The values that differ, with those of the steps themselves. */
  inputs: Input[];
  /** The steps, which take them. */
  steps: readonly ListedStep[];
  /** The other places, each with its steps and the values that stand there. */
  others: { at: StepsAt; steps: readonly StepId[]; given: Given[] }[];
}

/** The names of inputs that nobody has named yet. */
const INPUT_NAMES: Readonly<Record<InputKind, string>> = {
  time: "time",
  length: "way",
  speed: "pace",
  number: "times",
  target: "mark",
  text: "words",
};

/** A value of a phrase: its kind where a routine can take it. */
interface Value {
  text: string;
  kind?: InputKind;
}

/** The values of a step, and its phrase without them: alike are steps with the same one. */
function readStep(step: ListedStep): { form: string; values: Value[] } {
  const { phrase, values } = valuesIn(step);
  let form = "";
  let behind = 0;
  const found = values.map(({ from, to }): Value => {
    const text = phrase.slice(from, to);
    const read = parsePhrase(text, { ...NO_NAMES, targets: [text] }, takeAnyInput);
    const kind = "value" in read && read.value.value === text ? read.value.kind : undefined;
    form += `${phrase.slice(behind, from)}${kind === undefined ? text : `\0${kind}\0`}`;
    behind = to;
    return { text, ...(kind && { kind }) };
  });
  return { form: form + phrase.slice(behind), values: found };
}

/** Every list of steps of a behaviour, with its place. */
function* listsOf({ modes, routines }: Behaviour): Generator<StepsAt> {
  for (const { id: mode, responses } of modes) {
    yield { mode, entering: true };
    for (const { id: response } of responses) yield { mode, response };
  }
  for (const { id: routine } of routines) yield { routine };
}

/**
 * Finds where steps that follow one another stand elsewhere, alike but for numbers, targets and texts. Nothing is found
 * for steps that take something of the routine in which they stand.
 */
export function alikeSteps(behaviour: Behaviour, at: StepsAt, picked: readonly StepId[]): AlikeSteps {
  const own = stepsAt(behaviour, at).filter(({ id }) => picked.includes(id));
  const none = { inputs: [], steps: own, others: [] };
  if (own.length === 0 || own.some(({ takes }) => takes !== undefined)) return none;
  const read = own.map(readStep);
  const isOwn = (place: StepsAt) => JSON.stringify(place) === JSON.stringify(at);

  const others: { at: StepsAt; steps: readonly ListedStep[]; values: Value[][] }[] = [];
  for (const place of listsOf(behaviour)) {
    const list = stepsAt(behaviour, place);
    for (let i = 0; i + own.length <= list.length; i++) {
      const steps = list.slice(i, i + own.length);
      if (isOwn(place) && steps.some(({ id }) => picked.includes(id))) continue;
      const there = steps.map(readStep);
      const isAlike = there.every(({ form }, k) => form === read[k].form && steps[k].takes === undefined);
      if (!isAlike || !own.every((step, k) => becomes(step, read[k].values, steps[k], there[k].values))) continue;
      others.push({ at: place, steps, values: there.map(({ values }) => values) });
      i += own.length - 1;
    }
  }
  if (others.length === 0) return none;

  // Values that are the same as one another wherever the steps stand are one input.
  const found = new Map<string, { input: Input; elsewhere: string[] }>();
  const inputFor = (kind: InputKind, value: string, elsewhere: string[]): Input => {
    const key = JSON.stringify([kind, value, elsewhere]);
    const known = found.get(key);
    if (known !== undefined) return known.input;
    const same = [...found.values()].filter(({ input }) => input.kind === kind).length;
    const input = { name: `${INPUT_NAMES[kind]}${same === 0 ? "" : `-${same + 1}`}`, kind, value };
    found.set(key, { input, elsewhere });
    return input;
  };
  const steps = own.map((step, k): ListedStep => {
    const takes: Takes = {};
    read[k].values.forEach(({ text, kind }, slot) => {
      const elsewhere = others.map(({ values }) => values[k][slot].text);
      if (kind !== undefined && elsewhere.some((one) => one !== text))
        takes[String(slot)] = inputFor(kind, text, elsewhere).name;
    });
    return Object.keys(takes).length === 0 ? step : { ...step, takes };
  });
  return {
    inputs: [...found.values()].map(({ input }) => input),
    steps,
    others: others.map(({ at, steps }, i) => ({
      at,
      steps: steps.map(({ id }) => id),
      given: [...found.values()].flatMap(({ input: { name: input, kind, value }, elsewhere }) =>
        elsewhere[i] === value ? [] : [{ input, kind, value: elsewhere[i] }],
      ),
    })),
  };
}

/** Tells whether a step with the values of another is that one. */
function becomes(step: ListedStep, values: readonly Value[], other: ListedStep, others: readonly Value[]): boolean {
  const differ = values.flatMap(({ text }, slot) => (text === others[slot].text ? [] : [String(slot)]));
  const takes = Object.fromEntries(differ.map((slot) => [slot, slot]));
  const filled = filledStep({ ...step, takes }, new Map(differ.map((slot) => [slot, others[Number(slot)].text])));
  return !("problem" in filled) && printStep(filled) === printStep(other);
}
