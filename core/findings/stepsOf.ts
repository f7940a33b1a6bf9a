import { type Behaviour, factsOf, type Mode, type Step } from "../behaviour";
import type { ModeId, ResponseId } from "../names";

/** A place where steps stand: a response's, or a mode's entering steps. */
export interface StepsPlace {
  mode: ModeId;
  response?: ResponseId;
}

/** The steps with those of the routines that they do in their place; what runs meanwhile stands for itself. */
export function unfolded(behaviour: Behaviour, steps: readonly Step[], depth = 0): Step[] {
  if (depth > 20) return [];
  return steps.flatMap((step) => {
    const { beside, does } = factsOf(step);
    if (beside !== undefined) return [beside as Step];
    if (does === undefined) return [step];
    const routine = behaviour.routines.find((r) => r.id === does);
    return unfolded(behaviour, routine?.steps ?? [], depth + 1);
  });
}

/** Every list of steps with its place; responses that are off are left out. */
export function stepLists(behaviour: Behaviour): { at: StepsPlace; steps: Step[] }[] {
  return behaviour.modes.flatMap((mode) => [
    { at: { mode: mode.id }, steps: mode.entering },
    ...mode.responses.filter((r) => r.on).map((r) => ({ at: { mode: mode.id, response: r.id }, steps: r.steps })),
  ]);
}

/** Whether the wheels turn once the steps are done: undefined where they do not touch the wheels. */
export function movesAfter(behaviour: Behaviour, steps: readonly Step[]): boolean | undefined {
  let moves: boolean | undefined;
  for (const step of unfolded(behaviour, steps)) moves = factsOf(step).leavesMoving ?? moves;
  return moves;
}

/** Whether the steps themselves go on to a mode, or finish. */
export function leadsOn(behaviour: Behaviour, steps: readonly Step[]): boolean {
  return unfolded(behaviour, steps).some((step) => factsOf(step).leadsTo !== undefined);
}

/** The place of the step after which no other is done, since it leads to another mode or finishes; -1 for none. */
export const endOf = (behaviour: Behaviour, steps: readonly Step[]): number =>
  steps.findIndex((step) => factsOf(step).beside === undefined && leadsOn(behaviour, [step]));

/**
 * How far the steps drive the robot on their own before they end, in mm, at a top speed in mm/s; what ends by a
 * condition does not count.
 */
export function drivenOff(behaviour: Behaviour, steps: readonly Step[], topSpeed: number): number {
  let way = 0;
  for (const step of unfolded(behaviour, steps)) {
    const { wayMm = 0, wayShareMs = 0 } = factsOf(step);
    way += wayMm + (wayShareMs * topSpeed) / 1000;
  }
  return way;
}

/** The modes whose answers are done from a list, wherever they are replayed. */
export const replayedModes = (behaviour: Behaviour): Set<ModeId> =>
  new Set(
    stepLists(behaviour)
      .flatMap(({ steps }) => unfolded(behaviour, steps))
      .flatMap((step) => factsOf(step).replays ?? []),
  );

/** The modes that a mode leads into; "finish" among them. */
export function exitsOf(behaviour: Behaviour, id: ModeId): Set<ModeId | "finish"> {
  const exits = new Set<ModeId | "finish">();
  const mode = behaviour.modes.find((m) => m.id === id);
  const lists = [mode?.entering ?? [], ...(mode?.responses ?? []).filter((r) => r.on).map((r) => r.steps)];
  for (const step of lists.flatMap((steps) => unfolded(behaviour, steps))) {
    const { leadsTo } = factsOf(step);
    if (leadsTo !== undefined) exits.add(leadsTo);
  }
  for (const response of mode?.responses ?? [])
    if (response.on && response.then !== undefined) exits.add(response.then);
  exits.delete(id);
  return exits;
}

/** The fastest that a mode goes straight ahead while it may meet something: what has no end of its own. */
export function fastestOf(behaviour: Behaviour, mode: Mode): number {
  const lists = [mode.entering, ...mode.responses.filter((r) => r.on).map((r) => r.steps)];
  return Math.max(
    0,
    ...lists.flatMap((steps) => unfolded(behaviour, steps)).map((step) => factsOf(step).straightOn ?? 0),
  );
}
