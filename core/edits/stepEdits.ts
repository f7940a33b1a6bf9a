import * as z from "zod";
import { alikeSteps, type Behaviour, inputsAt, ListedStep, type StepsAt, stepsAt, withStepsAt } from "../behaviour";
import { Id, ModeIdSchema, nextId, ResponseIdSchema, type StepId, StepIdSchema } from "../names";
import type { ProjectDocument } from "../project";
import { moved, placed, without, withThing } from "./change";
import { editKind } from "./editKind";
import { modeName } from "./words";

/** The place of a list of steps: on entering a mode, in a response, in a routine. */
const At: z.ZodType<StepsAt> = z.union([
  z.strictObject({ mode: ModeIdSchema, entering: z.literal(true) }),
  z.strictObject({ mode: ModeIdSchema, response: ResponseIdSchema }),
  z.strictObject({ routine: Id }),
]);
const withSteps = (project: ProjectDocument, at: StepsAt, change: (steps: readonly ListedStep[]) => ListedStep[]) => {
  const steps = stepsAt(project.behaviour, at);
  const made = change(steps);
  return made === steps ? project : { ...project, behaviour: withStepsAt(project.behaviour, at, made) };
};

const placeWords = (at: StepsAt, project: ProjectDocument) =>
  "routine" in at ? `the routine ${at.routine}` : modeName(project, at.mode);

const OfStep = { at: At, step: StepIdSchema };

export const addStep = editKind(
  { at: At, step: ListedStep, before: StepIdSchema.nullable() },
  {
    words: ({ at }, project) => `step in ${placeWords(at, project)} added`,
    apply: (project, { at, step, before }) => withSteps(project, at, (steps) => placed(steps, step, before)),
  },
);

/** A step in the place of the one that has its id. */
export const replaceStep = editKind(
  { at: At, step: ListedStep },
  {
    words: ({ at }, project) => `step in ${placeWords(at, project)} changed`,
    apply: (project, { at, step }) => withSteps(project, at, (steps) => withThing(steps, step.id, () => step)),
  },
);

export const moveStep = editKind(
  { ...OfStep, before: StepIdSchema.nullable() },
  {
    words: ({ at }, project) => `step in ${placeWords(at, project)} moved`,
    apply: (project, { at, step, before }) => withSteps(project, at, (steps) => moved(steps, step, before)),
  },
);

export const deleteStep = editKind(OfStep, {
  words: ({ at }, project) => `step in ${placeWords(at, project)} deleted`,
  apply: (project, { at, step }) => withSteps(project, at, (steps) => without(steps, step)),
});

/**
 * A routine of steps that follow one another, which are done by one step from then on; with `alike` also wherever else
 * they stand with other values, which the routine takes.
 */
export const makeRoutine = editKind(
  { at: At, steps: z.array(StepIdSchema).min(1), routine: Id, doing: StepIdSchema, alike: z.literal(true).optional() },
  {
    words: ({ routine }) => `routine ${routine} made of steps`,
    refused({ at, steps }, project) {
      const all = stepsAt(project.behaviour, at).map(({ id }) => id);
      const first = all.findIndex((id) => steps.includes(id));
      const together = steps.every((id) => all.slice(first, first + steps.length).includes(id));
      return together ? undefined : "Only steps that follow one another can become a routine.";
    },
    apply(project, { at, steps, routine, doing, alike = false }) {
      const { behaviour } = project;
      const all = stepsAt(behaviour, at);
      const taken = all.filter(({ id }) => steps.includes(id));
      // The new routine takes, and is given, what the steps take of the one that they come from.
      const names = new Set(taken.flatMap(({ takes = {} }) => Object.values(takes)));
      const passed = inputsAt(behaviour, at).filter(({ name }) => names.has(name));
      const made: ListedStep = {
        ...{ id: doing, step: "do", routine },
        ...(passed.length > 0 && {
          with: passed.map(({ name, kind, value }) => ({ input: name, kind, value })),
          takes: Object.fromEntries(passed.map(({ name }, i) => [i, name])),
        }),
      };
      const found = alike ? alikeSteps(behaviour, at, steps) : { inputs: [], steps: taken, others: [] };
      const inputs = [...passed, ...found.inputs];
      const own = { id: routine, name: routine, ...(inputs.length > 0 && { inputs }), steps: [...found.steps] };
      const done = found.others.reduce(
        (left, { at, steps, given }) => {
          const id = nextId("step", stepsAt(left, at));
          return inPlaceOf(left, at, steps, {
            ...{ id, step: "do", routine },
            ...(given.length > 0 && { with: given }),
          });
        },
        inPlaceOf(behaviour, at, steps, made),
      );
      return { ...project, behaviour: { ...done, routines: [...done.routines, own] } };
    },
  },
);

/** The behaviour with one step in the place of some. */
function inPlaceOf(behaviour: Behaviour, at: StepsAt, steps: readonly StepId[], step: ListedStep): Behaviour {
  const all = stepsAt(behaviour, at);
  const first = all.find(({ id }) => steps.includes(id))?.id ?? null;
  return withStepsAt(
    behaviour,
    at,
    placed(all, step, first).filter((one) => one === step || !steps.includes(one.id)),
  );
}
