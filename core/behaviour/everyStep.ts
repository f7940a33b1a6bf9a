import type { Behaviour } from "./schema";
import type { ListedStep } from "./steps";

/** Changes every step of a behaviour, in modes and routines. */
export function everyStep(behaviour: Behaviour, change: (step: ListedStep) => ListedStep): Behaviour {
  return {
    ...behaviour,
    modes: behaviour.modes.map((mode) => ({
      ...mode,
      entering: mode.entering.map(change),
      responses: mode.responses.map((r) => ({ ...r, steps: r.steps.map(change) })),
    })),
    routines: behaviour.routines.map((routine) => ({ ...routine, steps: routine.steps.map(change) })),
  };
}
