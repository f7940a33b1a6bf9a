import type { Behaviour } from "../behaviour";
import type { ModeId } from "../names";
import type { FindingKind } from "./finding";
import { exitsOf, replayedModes } from "./stepsOf";

/** A mode, not the only one, that leads nowhere and does not finish. */
export const modeWithoutExit: FindingKind = {
  code: "mode-without-exit",
  find({ project: { behaviour } }) {
    const anyEnds = behaviour.modes.some((mode) => exitsOf(behaviour, mode.id).has("finish"));
    if (behaviour.modes.length < 2 && !anyEnds) return [];
    return behaviour.modes
      .filter((mode) => exitsOf(behaviour, mode.id).size === 0 && !isOnlyReplayed(behaviour, mode.id))
      .map((mode) => ({
        code: "mode-without-exit" as const,
        level: "warning" as const,
        title: `${mode.name} has no way out`,
        sentence: "Nothing in it goes on to another mode or finishes, so the robot stays in it for ever.",
        place: { stage: "act" as const, mode: mode.id },
      }));
  },
};

/** Whether a mode only lends its answers to a list that is replayed, and is never in charge. */
const isOnlyReplayed = (behaviour: Behaviour, id: ModeId) =>
  behaviour.start !== id &&
  replayedModes(behaviour).has(id) &&
  !behaviour.modes.some((mode) => mode.id !== id && exitsOf(behaviour, mode.id).has(id));
