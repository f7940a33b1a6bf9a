import { robotKindOf } from "../world";
import type { FindingKind } from "./finding";

/** A motor that is mounted reversed and not inverted, or inverted without need: its wheel turns the wrong way. */
export const drivesBackwards: FindingKind = {
  code: "drives-backwards",
  find({ project: { robot } }) {
    const motors = robotKindOf(robot).drive?.(robot).motors ?? [];
    return motors
      .filter((motor) => motor.mountedReversed !== motor.invert)
      .map((motor) => ({
        code: "drives-backwards" as const,
        level: "error" as const,
        title: `${motor.id} drives backwards`,
        sentence: motor.mountedReversed
          ? "It is mounted reversed and not inverted, so its wheel turns the other way than the steps say."
          : "It is inverted though it is mounted as it should be, so its wheel turns the other way than the steps say.",
        place: { stage: "prove" as const, about: motor.id },
        fix: {
          label: motor.mountedReversed ? "Invert it" : "Do not invert it",
          change: { motor: motor.id, invert: motor.mountedReversed },
        },
      }));
  },
};
