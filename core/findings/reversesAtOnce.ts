import { robotKindOf } from "../world";
import type { FindingKind } from "./finding";
import { reversalIn } from "./reversals";
import { stepLists } from "./stepsOf";

/** Steps that turn the wheels round while they still run: the wheels slip. */
export const reversesAtOnce: FindingKind = {
  code: "reverses-at-once",
  find({ project }) {
    const { behaviour, robot } = project;
    const drive = robotKindOf(robot).drive?.(robot);
    if (drive === undefined) return [];
    return stepLists(behaviour).flatMap(({ at, steps }) => {
      const reversal = reversalIn(drive, behaviour, at, steps);
      if (reversal === undefined) return [];
      const { index: i, own } = reversal;
      const mode = behaviour.modes.find((m) => m.id === at.mode)?.name ?? "";
      return [
        {
          code: "reverses-at-once" as const,
          level: "warning" as const,
          title: `The wheels are reversed at once in ${mode}`,
          sentence: `Step ${i + 1} turns them the other way while they still run from what was done before, faster than the floor can hold them, so they slip. Stop and wait a moment between.`,
          place: { stage: "act" as const, ...at },
          ...(own && { fix: { label: "Stop between", change: { at, stopBetween: true as const } } }),
        },
      ];
    });
  },
};
