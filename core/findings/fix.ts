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
import { Id, type ModeId, ModeIdSchema, nextId, ResponseIdSchema, SensorIdSchema } from "../names";
import type { ProjectDocument } from "../project";
import { applyChange, Change } from "../rules";
import { robotKindOf } from "../world";
import { calmed } from "./reversals";
import { endOf, type StepsPlace } from "./stepsOf";

const At = z.strictObject({ mode: ModeIdSchema, response: ResponseIdSchema.optional() });

/** What a finding's fix changes, as plain data, and no more than that: other edits made meanwhile stay. */
export const FixChange = z.union([
  Change,
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
  z.strictObject({ at: At, append: Step }),
  z.strictObject({ at: At, stopBetween: z.literal(true) }),
  z.strictObject({ at: At, endsWhereItLeads: z.literal(true) }),
  z.strictObject({ routine: Id, endsWhereItLeads: z.literal(true) }),
  z.strictObject({ at: At, gate: Id, sendInstead: Id }),
  z.strictObject({ at: At, waitAtMost: z.number(), until: ConditionSchema }),
  z.strictObject({ slowDown: ModeIdSchema, most: z.number() }),
  z.strictObject({ motor: Id, invert: z.boolean() }),
  z.strictObject({ mounted: SensorIdSchema, z: z.number() }),
  z.strictObject({ servo: Id, within: z.tuple([z.number(), z.number()]) }),
]);
export type FixChange = z.infer<typeof FixChange>;

/** What of a project a fix may change. */
type Mendable = Pick<ProjectDocument, "ruleSets" | "sensors" | "behaviour" | "robot">;

/** The project with a fix made. */
export function applyFix<P extends Mendable>(project: P, change: FixChange): P {
  if ("motor" in change) {
    const { robot } = project;
    const mended = robotKindOf(robot).withMotor?.(robot, change.motor, { invert: change.invert });
    return mended === undefined ? project : { ...project, robot: mended };
  }
  if ("mounted" in change) {
    const mounts = project.robot.mounts.map((m) => (m.sensor === change.mounted ? { ...m, z: change.z } : m));
    return { ...project, robot: { ...project.robot, mounts } };
  }
  if ("servo" in change) {
    const [low, high] = change.within;
    const turned = (step: ListedStep): ListedStep =>
      factsOf(step).turns?.servo === change.servo ? turnedStep(step, low, high) : step;
    return { ...project, behaviour: everyStep(project.behaviour, turned) };
  }
  if ("slowDown" in change) {
    const slower = (steps: ListedStep[]) =>
      steps.map((step) => pacedStep(step, (speed) => Math.min(speed, change.most)));
    const slowed = inMode(project, change.slowDown, (mode) => ({
      ...mode,
      entering: slower(mode.entering),
      responses: mode.responses.map((r) => ({ ...r, steps: slower(r.steps) })),
    }));
    const mode = project.behaviour.modes.find((m) => m.id === change.slowDown);
    const lists = mode === undefined ? [] : [mode.entering, ...mode.responses.map((r) => r.steps)];
    return inRoutines(slowed, lists, slower);
  }
  if ("routine" in change) {
    const { behaviour } = project;
    const routines = behaviour.routines.map((r) =>
      r.id === change.routine ? { ...r, steps: endedWhereTheyLead(behaviour, r.steps) } : r,
    );
    return { ...project, behaviour: { ...behaviour, routines } };
  }
  if ("at" in change) {
    const { at } = change;
    const steps = (now: ListedStep[]) => mendedSteps(project, now, change);
    const made = inMode(project, at.mode, (mode) =>
      at.response === undefined
        ? { ...mode, entering: steps(mode.entering) }
        : {
            ...mode,
            responses: mode.responses.map((r) => (r.id === at.response ? { ...r, steps: steps(r.steps) } : r)),
          },
    );
    const mode = project.behaviour.modes.find((m) => m.id === at.mode);
    const list = at.response === undefined ? mode?.entering : mode?.responses.find((r) => r.id === at.response)?.steps;
    return "waitAtMost" in change ? inRoutines(made, [list ?? []], steps) : made;
  }
  if ("set" in change)
    return inMode(project, change.mode, (mode) => ({
      ...mode,
      responses: mode.responses.map((r) => (r.id === change.response ? { ...r, ...change.set } : r)),
    }));
  return applyChange(project, change);
}

/** The steps as they now are, with the change made: what was edited since the finding stays. */
function mendedSteps(
  { robot, behaviour }: Pick<Mendable, "robot" | "behaviour">,
  steps: ListedStep[],
  change: Extract<FixChange, { at: StepsPlace }>,
): ListedStep[] {
  if ("append" in change) return [...steps, { ...change.append, id: nextId("step", steps) }];
  if ("stopBetween" in change) {
    const drive = robotKindOf(robot).drive?.(robot);
    return drive === undefined ? steps : calmed(drive, behaviour, change.at, steps);
  }
  if ("endsWhereItLeads" in change) return endedWhereTheyLead(behaviour, steps);
  if ("sendInstead" in change) return sentInstead(steps, change.gate, change.sendInstead);
  const condition = JSON.stringify(change.until);
  return steps.map((step) =>
    JSON.stringify(factsOf(step).waitsFor) === condition ? waitingStep(step, change.waitAtMost) : step,
  );
}

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
