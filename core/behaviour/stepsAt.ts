import type { ModeId, ResponseId } from "../names";
import type { Input } from "../phrases";
import type { Behaviour } from "./schema";
import type { ListedStep } from "./steps";

/** The place of a list of steps: on entering a mode, in a response, in a routine. */
export type StepsAt = { mode: ModeId; entering: true } | { mode: ModeId; response: ResponseId } | { routine: string };

/** The steps of a place; none where it has gone. */
export function stepsAt({ modes, routines }: Behaviour, at: StepsAt): readonly ListedStep[] {
  if ("routine" in at) return routines.find(({ id }) => id === at.routine)?.steps ?? [];
  const mode = modes.find(({ id }) => id === at.mode);
  if ("entering" in at) return mode?.entering ?? [];
  return mode?.responses.find(({ id }) => id === at.response)?.steps ?? [];
}

/** Gives the inputs that the steps of a place may take. */
export const inputsAt = ({ routines }: Behaviour, at: StepsAt): readonly Input[] =>
  ("routine" in at ? routines.find(({ id }) => id === at.routine)?.inputs : undefined) ?? [];

/** The behaviour with other steps at a place. */
export function withStepsAt(behaviour: Behaviour, at: StepsAt, steps: ListedStep[]): Behaviour {
  if ("routine" in at)
    return {
      ...behaviour,
      routines: behaviour.routines.map((one) => (one.id === at.routine ? { ...one, steps } : one)),
    };
  return {
    ...behaviour,
    modes: behaviour.modes.map((mode) => {
      if (mode.id !== at.mode) return mode;
      if ("entering" in at) return { ...mode, entering: steps };
      return { ...mode, responses: mode.responses.map((one) => (one.id === at.response ? { ...one, steps } : one)) };
    }),
  };
}
