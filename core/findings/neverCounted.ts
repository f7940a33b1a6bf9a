import { type Condition, conditionKindOf, factsOf, triggerKindOf } from "../behaviour";
import type { FindingKind, FindingPlace } from "./finding";
import { stepLists, unfolded } from "./stepsOf";

/** A condition asks a counter that nothing counts, or a list to which nothing jots: it stays as it is at the start. */
export const neverCounted: FindingKind = {
  code: "never-counted",
  find({ project: { behaviour } }) {
    const lists = stepLists(behaviour).map(({ at, steps }) => ({ at, steps: unfolded(behaviour, steps) }));
    const changed = new Set(lists.flatMap(({ steps }) => steps).map((step) => factsOf(step).changes));
    const asked = new Map<string, FindingPlace>();
    const ask = (condition: Condition | undefined, place: FindingPlace) => {
      for (const name of condition === undefined ? [] : namesIn(condition))
        if (!changed.has(name) && !asked.has(name)) asked.set(name, place);
    };
    for (const mode of behaviour.modes)
      for (const { id, on, when, guard } of mode.responses) {
        const place: FindingPlace = { stage: "act", mode: mode.id, response: id };
        if (!on) continue;
        ask(triggerKindOf(when).condition?.(when), place);
        ask(guard, place);
      }
    for (const { at, steps } of lists) for (const step of steps) ask(factsOf(step).waitsFor, { stage: "act", ...at });
    return [...asked].map(([name, place]) => ({
      code: "never-counted" as const,
      level: "warning" as const,
      ...(behaviour.counters.includes(name)
        ? {
            title: `Nothing counts ${name}`,
            sentence: `A condition asks for it, and it stays at 0: no step that is done says “count ${name} + 1”.`,
          }
        : {
            title: `Nothing is jotted to ${name}`,
            sentence: `A condition asks how many it holds, and it stays empty: no step that is done says “jot to ${name}”.`,
          }),
      place: { ...place, about: name },
    }));
  },
};

/** The counters and lists that a condition goes by. */
function namesIn(condition: Condition): string[] {
  const kind = conditionKindOf(condition);
  const own = kind.changedBySteps?.(condition);
  return own === undefined ? (kind.parts?.(condition) ?? []).flatMap(namesIn) : [own];
}
