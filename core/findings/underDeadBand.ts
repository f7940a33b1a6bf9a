import { factsOf } from "../behaviour";
import { robotKindOf } from "../world";
import type { Finding, FindingKind } from "./finding";
import { stepLists, unfolded } from "./stepsOf";

/** A step gives so little power that a motor without regulation does not start. */
export const underDeadBand: FindingKind = {
  code: "under-dead-band",
  find({ project: { behaviour, robot } }) {
    const motors = robotKindOf(robot).drive?.(robot).motors ?? [];
    return stepLists(behaviour).flatMap(({ at, steps }) =>
      motors.flatMap((motor, k): Finding[] => {
        if (motor.regulated) return [];
        const powers = unfolded(behaviour, steps).flatMap((step) => {
          const { wheels, straightOn } = factsOf(step);
          const power = wheels?.[k] ?? straightOn;
          return power === undefined ? [] : [power];
        });
        const weak = powers.find((power) => power !== 0 && Math.abs(power) < motor.deadBand);
        if (weak === undefined) return [];
        const least = Math.ceil(motor.deadBand * 100);
        return [
          {
            code: "under-dead-band",
            level: "error",
            title: `${motor.id} does not start at ${Math.round(weak * 100)} %`,
            sentence: `It is not regulated, and below ${least} % it does not move. Give it ${least} % or more, or regulate it in Prove.`,
            place: { stage: "act", ...at, about: motor.id },
          },
        ];
      }),
    );
  },
};
