import type { Behaviour, Step } from "../behaviour";
import type { ModeId } from "../names";
import type { StepsPlace } from "./fix";

/** The steps with those of the routines that they do in their place; what runs meanwhile stands for itself. */
export function unfolded(behaviour: Behaviour, steps: readonly Step[], depth = 0): Step[] {
  if (depth > 20) return [];
  return steps.flatMap((step) => {
    if (step.step === "meanwhile") return [step.does];
    if (step.step !== "do") return [step];
    const routine = behaviour.routines.find((r) => r.id === step.routine);
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
  for (const step of unfolded(behaviour, steps)) {
    if (step.step === "stop" || step.step === "turn" || step.step === "finish") moves = false;
    else if (step.step === "drive" || step.step === "follow") moves = step.travel === undefined && step.speed !== 0;
    else if (step.step === "wheels") moves = step.travel === undefined && (step.left !== 0 || step.right !== 0);
  }
  return moves;
}

/** Whether the steps themselves go on to a mode, or finish. */
export function leadsOn(behaviour: Behaviour, steps: readonly Step[]): boolean {
  return unfolded(behaviour, steps).some((step) => step.step === "go to" || step.step === "finish");
}

/** How far the steps drive the robot forward on their own before they end, in mm; only ways given as such count. */
export function drivenOff(behaviour: Behaviour, steps: readonly Step[]): number {
  let way = 0;
  for (const step of unfolded(behaviour, steps))
    if ((step.step === "drive" || step.step === "follow") && step.travel && "mm" in step.travel) way += step.travel.mm;
  return way;
}

/** The modes that a mode leads into; "finish" among them. */
export function exitsOf(behaviour: Behaviour, id: ModeId): Set<ModeId | "finish"> {
  const exits = new Set<ModeId | "finish">();
  const mode = behaviour.modes.find((m) => m.id === id);
  const lists = [mode?.entering ?? [], ...(mode?.responses ?? []).filter((r) => r.on).map((r) => r.steps)];
  for (const step of lists.flatMap((steps) => unfolded(behaviour, steps))) {
    if (step.step === "go to") exits.add(step.mode);
    if (step.step === "finish") exits.add("finish");
  }
  for (const response of mode?.responses ?? [])
    if (response.on && response.then !== undefined) exits.add(response.then);
  exits.delete(id);
  return exits;
}
