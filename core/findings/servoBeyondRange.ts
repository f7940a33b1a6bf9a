import { factsOf } from "../behaviour";
import type { Finding, FindingKind } from "./finding";
import { stepLists, unfolded } from "./stepsOf";

/** A step turns a servo farther than it goes: it stops at the end of its range. */
export const servoBeyondRange: FindingKind = {
  code: "servo-beyond-range",
  find({ project: { behaviour, robot } }) {
    return stepLists(behaviour).flatMap(({ at, steps }) =>
      unfolded(behaviour, steps).flatMap((step): Finding[] => {
        const { turns } = factsOf(step);
        const servo = robot.servos.find((s) => s.id === turns?.servo);
        if (turns === undefined || servo === undefined) return [];
        const [low, high] = [Math.min(servo.from, servo.to), Math.max(servo.from, servo.to)];
        if (turns.to >= low && turns.to <= high) return [];
        return [
          {
            code: "servo-beyond-range",
            level: "warning",
            title: `${servo.id} does not go to ${turns.to}°`,
            sentence: `Its range is ${low}° to ${high}°, so it stops at ${turns.to < low ? low : high}°. Ask for an angle within it, or set its range in Prove.`,
            place: { stage: "act", ...at, about: servo.id },
            fix: { label: `To ${turns.to < low ? low : high}°`, change: { servo: servo.id, within: [low, high] } },
          },
        ];
      }),
    );
  },
};
