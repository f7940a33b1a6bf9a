import type { Behaviour } from "./schema";
import { factsOf, kindOf, type Step } from "./steps";

/** A step at another speed: `to` is given its share of top speed, −1..1, and gives another. */
export function pacedStep(step: Step, to: (speed: number) => number): Step {
  const { beside } = factsOf(step);
  if (step.step === "meanwhile" && beside !== undefined)
    return { ...step, does: pacedStep(beside as Step, to) } as Step;
  return (kindOf(step).paced?.(step, to) ?? step) as Step;
}

/** A behaviour with all of its ways straight on at other speeds, in modes and routines. */
export function pacedBehaviour(behaviour: Behaviour, to: (speed: number) => number): Behaviour {
  const paced = (steps: readonly Step[]) => steps.map((step) => pacedStep(step, to));
  return {
    ...behaviour,
    modes: behaviour.modes.map((mode) => ({
      ...mode,
      entering: paced(mode.entering),
      responses: mode.responses.map((r) => ({ ...r, steps: paced(r.steps) })),
    })),
    routines: behaviour.routines.map((r) => ({ ...r, steps: paced(r.steps) })),
  };
}
