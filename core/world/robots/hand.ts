import * as z from "zod";
import { standing } from "../body";
import { onAnyRobot } from "./parts";
import type { RobotKind } from "./RobotKind";
import { sharedMachine } from "./sharedMachine";

/** No motion: cards come under its sensor one after another. */
export const HandRobot = z.strictObject({ ...onAnyRobot, kind: z.literal("hand") });
export type HandRobot = z.infer<typeof HandRobot>;

/** A robot held in the hand, or that stands still. */
export const hand: RobotKind<HandRobot> = {
  key: "hand",
  name: "hand with cards",
  origin: "its middle",
  schema: HandRobot,
  course: "hand",
  fresh: ({ id, name, mounts, lamps, buttons, servos }) => ({
    id,
    name,
    kind: "hand",
    mounts,
    lamps,
    buttons,
    servos,
  }),
  machine: (robot) => ({ ...sharedMachine(robot), topSpeed: 0, can: [] }),
  body: (_, start) => standing(start),
  faster: (robot) => robot,
  widthMm: () => 0,
};
