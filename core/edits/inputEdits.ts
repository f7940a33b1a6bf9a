import * as z from "zod";
import {
  type Behaviour,
  everyStep,
  filledStep,
  InputSchema,
  inputsAt,
  inputValue,
  type ListedStep,
  type Routine,
} from "../behaviour";
import { Id } from "../names";
import { inUse, type ProjectDocument } from "../project";
import { withThing } from "./change";
import { editKind } from "./editKind";

const OfInput = { routine: Id, input: Id };

const inputsOf = ({ behaviour }: ProjectDocument, routine: string) => inputsAt(behaviour, { routine });

/** The project with one routine changed. */
function withRoutine(project: ProjectDocument, id: string, change: (routine: Routine) => Routine): ProjectDocument {
  const { behaviour } = project;
  return { ...project, behaviour: { ...behaviour, routines: withThing(behaviour.routines, id, change) } };
}

/** Something that a routine takes from who does it. */
export const addInput = editKind(
  { routine: Id, input: InputSchema },
  {
    words: ({ routine, input }) => `input ${input.name} of ${routine} added`,
    refused: ({ routine, input }, project) =>
      inputsOf(project, routine).some(({ name }) => name === input.name)
        ? `The routine ${routine} takes “${input.name}” already.`
        : undefined,
    apply: (project, { routine, input }) =>
      withRoutine(project, routine, (one) => ({ ...one, inputs: [...(one.inputs ?? []), input] })),
  },
);

/** Another value from which an input starts: the routine's steps go by it where nothing else is given. */
export const changeInput = editKind(
  { ...OfInput, value: z.string() },
  {
    words: ({ routine, input }) => `start of ${input} of ${routine} changed`,
    apply(project, { routine, input, value }) {
      const own = inputsOf(project, routine).find(({ name }) => name === input);
      if (own === undefined) return project;
      const read = inputValue(own.kind, value);
      if ("problem" in read) return read;
      const inputs = inputsOf(project, routine).map((one) => (one === own ? { ...one, value: read.value } : one));
      const values = new Map(inputs.map((one) => [one.name, one.value]));
      let problem: string | undefined;
      const made = withRoutine(project, routine, (one) => ({
        ...one,
        inputs,
        steps: one.steps.map((step) => {
          const filled = filledStep(step, values);
          if (!("problem" in filled)) return step.takes === undefined ? step : { ...filled, takes: step.takes };
          problem ??= filled.problem;
          return step;
        }),
      }));
      return problem === undefined ? made : { problem };
    },
  },
);

/** The steps with what is given to a routine's input changed. */
const withGiven = (behaviour: Behaviour, routine: string, input: string, to: string): Behaviour =>
  everyStep(behaviour, (step) =>
    step.step === "do" && step.routine === routine && step.with?.some((given) => given.input === input)
      ? { ...step, with: step.with.map((given) => (given.input === input ? { ...given, input: to } : given)) }
      : step,
  );

/** Another name of an input, in the routine's steps and wherever it is given. */
export const renameInput = editKind(
  { ...OfInput, to: Id },
  {
    words: ({ routine, to }) => `input of ${routine} named ${to}`,
    refused: ({ routine, input, to }, project) =>
      to !== input && inputsOf(project, routine).some(({ name }) => name === to)
        ? `The routine ${routine} takes “${to}” already.`
        : undefined,
    apply(project, { routine, input, to }) {
      const renamed = withRoutine(project, routine, (one) => ({
        ...one,
        ...(one.inputs && { inputs: one.inputs.map((own) => (own.name === input ? { ...own, name: to } : own)) }),
        steps: one.steps.map((step) => {
          if (step.takes === undefined) return step;
          const takes = Object.entries(step.takes).map(([place, name]) => [place, name === input ? to : name]);
          return { ...step, takes: Object.fromEntries(takes) };
        }),
      }));
      return { ...renamed, behaviour: withGiven(renamed.behaviour, routine, input, to) };
    },
  },
);

/** Tells where an input is taken or given, in a person's words. */
export function usesOfInput({ behaviour }: ProjectDocument, routine: string, input: string): string[] {
  const takes = (step: ListedStep) => Object.values(step.takes ?? {}).includes(input);
  const gives = (step: ListedStep) =>
    step.step === "do" && step.routine === routine && step.with?.some((given) => given.input === input);
  return [
    ...behaviour.modes.flatMap(({ name, entering, responses }) =>
      [...entering, ...responses.flatMap(({ steps }) => steps)].some(gives) ? [`the mode ${name}`] : [],
    ),
    ...behaviour.routines.flatMap(({ id, name, steps }) =>
      steps.some((step) => gives(step) || (id === routine && takes(step))) ? [`the routine ${name}`] : [],
    ),
  ];
}

export const deleteInput = editKind(OfInput, {
  words: ({ routine, input }) => `input ${input} of ${routine} deleted`,
  refused: ({ routine, input }, project) => inUse(`The input ${input}`, usesOfInput(project, routine, input)),
  apply: (project, { routine, input }) =>
    withRoutine(project, routine, ({ inputs = [], ...one }) => {
      const left = inputs.filter(({ name }) => name !== input);
      return left.length === 0 ? one : { ...one, inputs: left };
    }),
});
