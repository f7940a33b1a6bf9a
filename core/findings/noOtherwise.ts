import { answeredBy, triggerKindOf } from "../behaviour";
import type { FindingKind } from "./finding";
import { leadsOn } from "./stepsOf";

/** A mode that only ever waits for things to be seen: where none comes, nothing happens. */
export const noOtherwise: FindingKind = {
  code: "no-otherwise",
  find({ project: { behaviour } }) {
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
