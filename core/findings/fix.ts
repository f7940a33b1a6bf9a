import * as z from "zod";
import {
  type Behaviour,
  ConditionSchema,
  everyStep,
  factsOf,
  type ListedStep,
  pacedStep,
  Response,
  Step,
  turnedStep,
  waitingStep,
} from "../behaviour";
import { Id, type ModeId, ModeIdSchema, nextId, ResponseIdSchema, SensorIdSchema, Table } from "../names";
import type { ProjectDocument } from "../project";
import { CHANGES, type Change, type ChangeKind, changedBy } from "../rules";
import { robotKindOf } from "../world";
import { calmed } from "./reversals";
import { endOf, type StepsPlace } from "./stepsOf";

const At = z.strictObject({ mode: ModeIdSchema, response: ResponseIdSchema.optional() });

/** What of a project a fix may change. */
type Mendable = Pick<ProjectDocument, "ruleSets" | "sensors" | "behaviour" | "robot">;

/** A kind of fix by its property: what it is as plain data, and the project with it made. */
export type FixKind<C extends object = object> = ChangeKind<C, Mendable>;
const fix = <S extends z.ZodObject>(
  key: string & keyof z.infer<S>,
  schema: S,
  apply: (project: Mendable, change: z.infer<S>) => Mendable,
) => ({ key, schema, apply });

/** A fix of the steps at a place: as they now are, so that what was edited since the finding stays. */
const ofSteps = <S extends z.ZodRawShape>(
  key: string,
  shape: S,
  mend: (
    steps: ListedStep[],
    change: z.infer<z.ZodObject<S, z.core.$strict>> & { at: StepsPlace },
    project: Mendable,
  ) => ListedStep[],
) => {
  const schema = z.strictObject({ at: At, ...shape });
  return {
    key,
    schema,
    apply: (project: Mendable, made: z.infer<typeof schema>): Mendable => {
      const change = made as unknown as z.infer<z.ZodObject<S, z.core.$strict>> & { at: StepsPlace };
      return atPlace(project, change.at, (steps) => mend(steps, change, project));
    },
  };
};

const OWN = [
  fix(
    "set",
    z.strictObject({
      response: ResponseIdSchema,
      mode: ModeIdSchema,
      set: z.strictObject({
        fires: Response.shape.fires.optional(),
        busy: Response.shape.busy.optional(),
        then: Response.shape.then,
        on: z.boolean().optional(),
      }),
    }),
    (project, { mode, response, set }) =>
      inMode(project, mode, (own) => ({
        ...own,
        responses: own.responses.map((r) => (r.id === response ? { ...r, ...set } : r)),
      })),
  ),
  ofSteps("append", { append: Step }, (steps, { append }) => [...steps, { ...append, id: nextId("step", steps) }]),
  ofSteps("stopBetween", { stopBetween: z.literal(true) }, (steps, { at }, { robot, behaviour }) => {
    const drive = robotKindOf(robot).drive?.(robot);
    return drive === undefined ? steps : calmed(drive, behaviour, at, steps);
  }),
  fix(
    "endsWhereItLeads",
    z
      .strictObject({ at: At.optional(), routine: Id.optional(), endsWhereItLeads: z.literal(true) })
      .refine(({ at, routine }) => (at === undefined) !== (routine === undefined), "it is of a place or of a routine"),
    (project, { at, routine }) => {
      const { behaviour } = project;
      const ended = (steps: ListedStep[]) => endedWhereTheyLead(behaviour, steps);
      const routines = behaviour.routines.map((r) => (r.id === routine ? { ...r, steps: ended(r.steps) } : r));
      const made = { ...project, behaviour: { ...behaviour, routines } };
      return at === undefined ? made : atPlace(made, at, ended);
    },
  ),
  ofSteps("sendInstead", { gate: Id, sendInstead: Id }, (steps, { gate, sendInstead }) =>
    sentInstead(steps, gate, sendInstead),
  ),
  fix(
    "waitAtMost",
    z.strictObject({ at: At, waitAtMost: z.number(), until: ConditionSchema }),
    (project, { at, waitAtMost, until }) => {
      const condition = JSON.stringify(until);
      const bounded = (steps: ListedStep[]) =>
        steps.map((step) =>
          JSON.stringify(factsOf(step).waitsFor) === condition ? waitingStep(step, waitAtMost) : step,
        );
      const mode = project.behaviour.modes.find((m) => m.id === at.mode);
      const list =
        at.response === undefined ? mode?.entering : mode?.responses.find((r) => r.id === at.response)?.steps;
      return inRoutines(atPlace(project, at, bounded), [list ?? []], bounded);
    },
  ),
  fix("slowDown", z.strictObject({ slowDown: ModeIdSchema, most: z.number() }), (project, { slowDown, most }) => {
    const slower = (steps: ListedStep[]) => steps.map((step) => pacedStep(step, (speed) => Math.min(speed, most)));
    const slowed = inMode(project, slowDown, (mode) => ({
      ...mode,
      entering: slower(mode.entering),
      responses: mode.responses.map((r) => ({ ...r, steps: slower(r.steps) })),
    }));
    const mode = project.behaviour.modes.find((m) => m.id === slowDown);
    const lists = mode === undefined ? [] : [mode.entering, ...mode.responses.map((r) => r.steps)];
    return inRoutines(slowed, lists, slower);
  }),
  fix("motor", z.strictObject({ motor: Id, invert: z.boolean() }), (project, { motor, invert }) => {
    const { robot } = project;
    const mended = robotKindOf(robot).withMotor?.(robot, motor, { invert });
    return mended === undefined ? project : { ...project, robot: mended };
  }),
  fix("mounted", z.strictObject({ mounted: SensorIdSchema, z: z.number() }), (project, { mounted, z }) => {
    const mounts = project.robot.mounts.map((m) => (m.sensor === mounted ? { ...m, z } : m));
    return { ...project, robot: { ...project.robot, mounts } };
  }),
  fix(
    "servo",
    z.strictObject({ servo: Id, within: z.tuple([z.number(), z.number()]) }),
    (project, { servo, within: [low, high] }) => ({
      ...project,
      behaviour: everyStep(project.behaviour, (step) =>
        factsOf(step).turns?.servo === servo ? turnedStep(step, low, high) : step,
      ),
    }),
  ),
] as const;

/** What a finding's fix changes, as plain data, and no more than that: other edits made meanwhile stay. */
export type FixChange = Change | z.infer<(typeof OWN)[number]["schema"]>;

/** All kinds of fixes. */
export const FIXES = new Table<FixKind>([...CHANGES.entries, ...OWN] as readonly unknown[] as FixKind[]);
export const FixChange = z.union(FIXES.schemas as [z.ZodType<FixChange>, z.ZodType<FixChange>]);

/** The project with a fix made. */
export const applyFix = <P extends Mendable>(project: P, change: FixChange): P =>
  changedBy(FIXES, project as Mendable, change) as P;

/** The project with the steps at a place changed. */
const atPlace = (project: Mendable, at: StepsPlace, change: (steps: ListedStep[]) => ListedStep[]): Mendable =>
  inMode(project, at.mode, (mode) =>
    at.response === undefined
      ? { ...mode, entering: change(mode.entering) }
      : {
          ...mode,
          responses: mode.responses.map((r) => (r.id === at.response ? { ...r, steps: change(r.steps) } : r)),
        },
  );

/** The steps without those after one that leads to another mode or finishes. */
function endedWhereTheyLead(behaviour: Behaviour, steps: ListedStep[]): ListedStep[] {
  const end = endOf(behaviour, steps);
  return end < 0 ? steps : steps.slice(0, end + 1);
}

/** The steps with a gate's opening and closing, and the waits around them, made one `send`. */
function sentInstead(steps: ListedStep[], gate: string, crate: string): ListedStep[] {
  const first = steps.findIndex((step) => factsOf(step).moves?.gate === gate);
  if (first < 0) return steps;
  const goes = (step: Step) => factsOf(step).moves?.gate === gate || factsOf(step).waitsMs !== undefined;
  const before = steps.slice(0, first).filter((step) => !goes(step));
  return [
    ...before,
    { step: "send", crate, id: nextId("step", steps) },
    ...steps.slice(first).filter((step) => !goes(step)),
  ];
}

/** The project with the routines changed that some lists of steps do, and those that these do. */
function inRoutines<P extends Mendable>(
  project: P,
  lists: readonly ListedStep[][],
  change: (steps: ListedStep[]) => ListedStep[],
): P {
  const { behaviour } = project;
  const done = new Set<string>();
  const visit = (steps: readonly Step[]): void => {
    for (const step of steps) {
      const { does } = factsOf(step);
      if (does === undefined || done.has(does)) continue;
      done.add(does);
      visit(behaviour.routines.find((r) => r.id === does)?.steps ?? []);
    }
  };
  lists.forEach(visit);
  const routines = behaviour.routines.map((r) => (done.has(r.id) ? { ...r, steps: change(r.steps) } : r));
  return { ...project, behaviour: { ...behaviour, routines } };
}

function inMode<P extends Mendable>(
  project: P,
  id: ModeId,
  change: (mode: Behaviour["modes"][number]) => Behaviour["modes"][number],
): P {
  const { behaviour } = project;
  return {
    ...project,
    behaviour: { ...behaviour, modes: behaviour.modes.map((m) => (m.id === id ? change(m) : m)) },
  };
}
