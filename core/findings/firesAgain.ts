import { targetsOf, triggerKindOf } from "../behaviour";
import { machineOf } from "../world";
import { type FindingKind, nameOf } from "./finding";
import { longestPatch } from "./patchSize";
import { drivenOff, movesAfter } from "./stepsOf";

/** A response that fires while its target is present and leaves the robot standing on it: it fires again and again. */
export const firesAgain: FindingKind = {
  code: "fires-again",
  find({ project }) {
    const { behaviour } = project;
    return behaviour.modes.flatMap((mode) =>
      mode.responses.flatMap((response) => {
        const { when } = response;
        if (
          !response.on ||
          response.fires !== "while present" ||
          !triggerKindOf(when).whileSeen ||
          response.then !== undefined
        )
          return [];
        if (movesAfter(behaviour, response.steps) !== false) return [];
        const way = drivenOff(behaviour, response.steps, machineOf(project.robot).topSpeed);
        const longest = Math.max(...targetsOf(when).map((target) => longestPatch(project, target)));
        if (way > longest) return [];
        const names = targetsOf(when)
          .map((target) => nameOf(project, target))
          .join(" or ");
        return [
          {
            code: "fires-again" as const,
            level: "error" as const,
            title: `The answer to ${names} fires again and again`,
            sentence: `It fires while ${names} is present, and its steps leave the robot ${way > 0 ? `only ${(way / 10).toFixed(1)} cm farther` : "standing there"}, so it starts anew as soon as it has ended.`,
            place: { stage: "act" as const, mode: mode.id, response: response.id },
            fix: {
              label: "Once per visit",
              change: { mode: mode.id, response: response.id, set: { fires: "once per visit" as const } },
            },
          },
        ];
      }),
    );
  },
};
