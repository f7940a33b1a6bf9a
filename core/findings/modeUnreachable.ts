import type { ModeId } from "../names";
import type { FindingKind } from "./finding";
import { exitsOf, replayedModes } from "./stepsOf";

/** A mode that nothing leads into. */
export const modeUnreachable: FindingKind = {
  code: "mode-unreachable",
  find({ project: { behaviour } }) {
    // A mode whose answers are replayed from a list is used, though nothing goes on to it.
    const reached = new Set<ModeId>([behaviour.start, ...replayedModes(behaviour)]);
    for (const mode of reached) for (const exit of exitsOf(behaviour, mode)) if (exit !== "finish") reached.add(exit);
    return behaviour.modes
      .filter((mode) => !reached.has(mode.id))
      .map((mode) => ({
        code: "mode-unreachable" as const,
        level: "warning" as const,
        title: `Nothing leads into ${mode.name}`,
        sentence: `No response goes on to it and no step goes to it, so its ${mode.responses.length} responses never count.`,
        place: { stage: "act" as const, mode: mode.id },
      }));
  },
};
