import { type Behaviour, type Condition, conditionKindOf, factsOf, type Step } from "../behaviour";
import type { FindingKind } from "./finding";
import { stepLists, unfolded } from "./stepsOf";

/** Steps that wait without end for a count or a list that nothing can change while they wait. */
export const waitsForItself: FindingKind = {
  code: "waits-for-itself",
  find({ project: { behaviour } }) {
    return stepLists(behaviour).flatMap(({ at, steps }) => {
      return unfolded(behaviour, steps).flatMap((step) => {
        const { waitsFor } = factsOf(step);
        if (waitsFor === undefined) return [];
        const names = namesIn(waitsFor);
        // A condition that also looks at the world may come true by it.
        if (names === undefined || names.some((name) => changedMeanwhile(behaviour, at, name))) return [];
        const mode = behaviour.modes.find((m) => m.id === at.mode)?.name ?? "";
        return [
          {
            code: "waits-for-itself" as const,
            level: "error" as const,
            title: `A response in ${mode} waits for something that cannot happen`,
            sentence: `It waits until ${names.join(" and ")} changes, and while it waits nothing can change ${names.length > 1 ? "them" : "it"}: only a response that takes over could. Wait at most some seconds.`,
            place: { stage: "act" as const, ...at },
            fix: {
              label: "At most 5 s",
              change: { at, waitAtMost: 5000, until: waitsFor },
            },
          },
        ];
      });
    });
  },
};

/** The counters and lists that a condition names; undefined if it asks anything else. */
function namesIn(condition: Condition): string[] | undefined {
  const kind = conditionKindOf(condition);
  const own = kind.changedBySteps?.(condition);
  if (own !== undefined) return [own];
  const parts = kind.parts?.(condition);
  if (parts === undefined) return undefined;
  const all = parts.map(namesIn);
  return all.includes(undefined) ? undefined : [...new Set(all.flatMap((names) => names ?? []))];
}

const changes = (step: Step, name: string): boolean => factsOf(step).changes === name;

/** Whether another response of the mode that takes over changes a counter or list. */
function changedMeanwhile(behaviour: Behaviour, at: { mode: string; response?: string }, name: string): boolean {
  const mode = behaviour.modes.find((m) => m.id === at.mode);
  return (mode?.responses ?? []).some(
    (r) =>
      r.on &&
      r.id !== at.response &&
      r.busy === "take over" &&
      unfolded(behaviour, r.steps).some((step) => changes(step, name)),
  );
}
