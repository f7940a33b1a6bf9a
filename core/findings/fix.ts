import { type Behaviour, type Condition, factsOf, kindOf, type Response, type Step } from "../behaviour";
import type { ModeId, ResponseId } from "../names";
import type { ProjectDocument } from "../project";
import { applyChange, type Change } from "../rules";
import { robotKindOf } from "../world";
import { calmed } from "./reversals";

/** A place where steps stand: a response's, or a mode's entering steps. */
export interface StepsPlace {
  mode: ModeId;
  response?: ResponseId;
}

/** What a finding's fix changes, as plain data, and no more than that: other edits made meanwhile stay. */
export type FixChange =
  | Change
  | { response: ResponseId; mode: ModeId; set: Partial<Pick<Response, "fires" | "busy" | "then" | "on">> }
  | { at: StepsPlace; append: Step }
  | { at: StepsPlace; stopBetween: true }
  | { at: StepsPlace; waitAtMost: number; until: Condition }
  | { slowDown: ModeId; most: number }
  | { motor: string; invert: boolean };

/** What of a project a fix may change. */
type Mendable = Pick<ProjectDocument, "ruleSets" | "sensors" | "behaviour" | "robot">;

/** The project with a fix made. */
export function applyFix<P extends Mendable>(project: P, change: FixChange): P {
  if ("motor" in change) {
    const { robot } = project;
    const mended = robotKindOf(robot).withMotor?.(robot, change.motor, { invert: change.invert });
    return mended === undefined ? project : { ...project, robot: mended };
  }
  if ("slowDown" in change) {
    const slower = (steps: Step[]) => steps.map((step) => cappedAt(step, change.most));
    return inMode(project, change.slowDown, (mode) => ({
      ...mode,
      entering: slower(mode.entering),
      responses: mode.responses.map((r) => ({ ...r, steps: slower(r.steps) })),
    }));
  }
  if ("at" in change) {
    const { at } = change;
    const steps = (now: Step[]) => mendedSteps(project, now, change);
    return inMode(project, at.mode, (mode) =>
      at.response === undefined
        ? { ...mode, entering: steps(mode.entering) }
        : {
            ...mode,
            responses: mode.responses.map((r) => (r.id === at.response ? { ...r, steps: steps(r.steps) } : r)),
          },
    );
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
  { robot }: Pick<Mendable, "robot">,
  steps: Step[],
  change: Extract<FixChange, { at: StepsPlace }>,
): Step[] {
  if ("append" in change) return [...steps, change.append];
  if ("stopBetween" in change) {
    const drive = robotKindOf(robot).drive?.(robot);
    return drive === undefined ? steps : calmed(drive, steps);
  }
  const condition = JSON.stringify(change.until);
  return steps.map((step) =>
    JSON.stringify(factsOf(step).waitsFor) === condition
      ? ((kindOf(step).waitingAtMost?.(step, change.waitAtMost) ?? step) as Step)
      : step,
  );
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

/** A step that goes straight on no faster than `most`, a share of top speed. */
const cappedAt = (step: Step, most: number): Step => (kindOf(step).slower?.(step, most) ?? step) as Step;
