import { type Behaviour, namedBehaviour } from "../behaviour";
import type { FindingKind } from "./finding";
import { placeOf } from "./placeOf";

/** A target that is recognised and then nothing is done about. */
export const targetWithoutResponse: FindingKind = {
  code: "target-without-response",
  find({ project }) {
    const ruled = new Set([
      ...project.ruleSets.flatMap((set) =>
        set.method === "nearest"
          ? set.nearest.references.map((r) => r.target)
          : set.rules.filter((r) => r.on).map((r) => r.target),
      ),
      ...project.sensors.flatMap((s) => Object.values(s.codes ?? {})),
    ]);
    const answered = mentioned(project.behaviour);
    return project.targets
      .filter((t) => t.kind !== "background" && ruled.has(t.id) && !answered.has(t.id))
      .map((target) => ({
        code: "target-without-response" as const,
        level: "hint" as const,
        title: `Nothing answers ${target.name}`,
        sentence:
          "It has a rule, but no response and no condition names it. Give it a response, or leave its rule out.",
        place: { stage: "act" as const, target: target.id },
      }));
  },
};

/** Every target that triggers, conditions and steps name, wherever they stand. */
function mentioned(behaviour: Behaviour): Set<string> {
  const found = new Set<string>();
  namedBehaviour(behaviour, (path) => (kind, id) => {
    // What is switched off answers nothing.
    if (kind === "target" && placeOf(behaviour, path) !== undefined) found.add(id);
    return id;
  });
  return found;
}
