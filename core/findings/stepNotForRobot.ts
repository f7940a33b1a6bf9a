import { ABILITY_WORDS, needOf, phraseWords } from "../behaviour";
import { machineOf, robotKindOf } from "../world";
import type { Finding, FindingKind } from "./finding";
import { stepLists, unfolded } from "./stepsOf";

/** A step that the robot cannot carry out: a run skips it. */
export const stepNotForRobot: FindingKind = {
  code: "step-not-for-robot",
  find({ project }) {
    const { behaviour, robot } = project;
    const { can } = machineOf(robot);
    return stepLists(behaviour).flatMap(({ at, steps }): Finding[] => {
      const unfit = unfolded(behaviour, steps).filter((step) => {
        const need = needOf(step);
        return need !== undefined && !can.includes(need);
      });
      if (unfit.length === 0) return [];
      const [first] = unfit;
      const mode = behaviour.modes.find((m) => m.id === at.mode)?.name ?? "";
      return [
        {
          code: "step-not-for-robot",
          level: "error",
          title: `${robot.name} cannot do a step in ${mode}`,
          sentence: `“${phraseWords(project).step(first)}” needs ${ABILITY_WORDS[needOf(first) ?? "drive"]}, which a ${robotKindOf(robot).name} does not have, so a run skips it. Remove it, or choose another robot in Prove.`,
          place: { stage: "act", ...at },
        },
      ];
    });
  },
};
