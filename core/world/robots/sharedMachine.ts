import type { Machine } from "../../behaviour";
import type { AnyRobot } from "./parts";

/** What every kind of robot offers to behaviour. */
export const sharedMachine = ({ mounts, lamps, buttons, servos }: AnyRobot): Omit<Machine, "topSpeed" | "can"> => ({
  eyes: mounts.map((mount) => mount.sensor),
  lamps,
  buttons,
  servos,
});
