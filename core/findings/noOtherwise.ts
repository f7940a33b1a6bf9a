import { answeredBy, triggerKindOf } from "../behaviour";
import { machineOf } from "../world";
import type { FindingKind } from "./finding";
import { leadsOn } from "./stepsOf";

/**
 * A mode of a robot that drives, and that only ever waits for things to be seen: where none comes, nothing happens. For
 * a hand that waits, and on a belt that brings things, this is how it should be.
 */
export const noOtherwise: FindingKind = {
  code: "no-otherwise",
  find({ project: { behaviour, robot } }) {
    const { belt, topSpeed } = machineOf(robot);
    if (belt !== undefined || topSpeed === 0) return [];
    return behaviour.modes.flatMap((mode) => {
      const on = mode.responses.filter((r) => r.on);
      const waits = on.some(({ when }) => answeredBy(when).length > 0);
      const otherwise = on.some(({ when }) => triggerKindOf(when).isOtherwise);
      if (!waits || otherwise || leadsOn(behaviour, mode.entering)) return [];
      return [
        {
          code: "no-otherwise" as const,
          level: "hint" as const,
          title: `${mode.name} has nothing to do when nothing is seen`,
          sentence:
            "All its responses wait for something to be seen. Say what happens when nothing is known for a while, or after some time.",
          place: { stage: "act" as const, mode: mode.id },
        },
      ];
    });
  },
};
