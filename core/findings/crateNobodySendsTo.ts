import { factsOf } from "../behaviour";
import { machineOf } from "../world";
import type { FindingKind } from "./finding";
import { stepLists, unfolded } from "./stepsOf";

/** A gate leads to a crate, and no step opens it or sends there. */
export const crateNobodySendsTo: FindingKind = {
  code: "crate-nobody-sends-to",
  find({ project: { behaviour, robot } }) {
    const { belt } = machineOf(robot);
    if (belt === undefined) return [];
    const facts = stepLists(behaviour).flatMap(({ steps }) => unfolded(behaviour, steps).map(factsOf));
    const opened = new Set(facts.flatMap(({ moves }) => (moves?.open ? [moves.gate] : [])));
    const sent = new Set(facts.flatMap(({ sendsTo }) => sendsTo ?? []));
    return belt.crates
      .filter(
        ({ id }) =>
          id !== belt.end &&
          !sent.has(id) &&
          belt.gates.some((gate) => gate.crate === id) &&
          !belt.gates.some((gate) => gate.crate === id && opened.has(gate.id)),
      )
      .map(({ id, name }) => ({
        code: "crate-nobody-sends-to" as const,
        level: "hint" as const,
        title: `Nothing is sent to ${name}`,
        sentence:
          "A gate leads there, and no step opens it or sends to the crate. Answer a target with it, or remove the gate.",
        place: { stage: "act" as const, about: id },
      }));
  },
};
