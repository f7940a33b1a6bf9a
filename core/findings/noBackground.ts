import type { FindingKind } from "./finding";

/** Rules are scored on targets alone: the forgotten background is the classic failure. */
export const noBackground: FindingKind = {
  code: "no-background",
  find({ project, tapes }) {
    const backgrounds = new Set(project.targets.flatMap((t, i) => (t.kind === "background" ? [i + 1] : [])));
    const marked = tapes.some((tape) => tape.truth.some((target) => backgrounds.has(target)));
    const anything = tapes.some((tape) => tape.head.marks.length > 0);
    if (marked || !anything) return [];
    return [
      {
        code: "no-background",
        level: "warning",
        title: "No background is marked",
        sentence:
          "What the floor reads is not known, so nothing can tell whether a rule also takes the floor. Mark a stretch of every ground that the robot crosses.",
        place: { stage: "sense" },
      },
    ];
  },
};
