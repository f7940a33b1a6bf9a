import type { FindingKind } from "./finding";
import { exitsOf } from "./stepsOf";

/** A mode, not the only one, that leads nowhere and does not finish. */
export const modeWithoutExit: FindingKind = {
  code: "mode-without-exit",
  find({ project: { behaviour } }) {
    const anyEnds = behaviour.modes.some((mode) => exitsOf(behaviour, mode.id).has("finish"));
    if (behaviour.modes.length < 2 && !anyEnds) return [];
    return behaviour.modes
      .filter((mode) => exitsOf(behaviour, mode.id).size === 0)
      .map((mode) => ({
        code: "mode-without-exit" as const,
        level: "warning" as const,
        title: `${mode.name} has no way out`,
        sentence: "Nothing in it goes on to another mode or finishes, so the robot stays in it for ever.",
        place: { stage: "act" as const, mode: mode.id },
      }));
  },
};
