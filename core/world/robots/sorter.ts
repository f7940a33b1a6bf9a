import { Belt } from "../belt/Belt";
import { looksAhead, newMotor } from "./parts";
import type { RobotKind } from "./RobotKind";
import { sharedMachine } from "./sharedMachine";
import { SorterRobot } from "./sorterSchema";

/** A sorter with a belt. */
export const sorter: RobotKind<SorterRobot> = {
  key: "sorter",
  name: "sorter with a belt",
  origin: "the belt’s start",
  schema: SorterRobot,
  course: "belt",
  fresh: ({ id, name, mounts, lamps, buttons, servos }) => ({
    id,
    name,
    kind: "sorter",
    mounts,
    belt: { ...newMotor("belt"), topSpeed: 300 },
    rollerMm: 40,
    gates: [],
    crates: [{ id: "end-crate", name: "End crate" }],
    end: "end-crate",
    lamps,
    buttons,
    servos,
  }),
  machine: (robot) => ({
    ...sharedMachine(robot),
    wheels: { wheelMm: robot.rollerMm },
    topSpeed: robot.belt.topSpeed,
    belt: {
      gates: robot.gates,
      crates: robot.crates,
      end: robot.end,
      looksAt: robot.mounts.map((mount) => mount.x + looksAhead(mount)),
    },
    can: ["drive", "sort"],
  }),
  body: (robot, { y }, chance, tickMs, around) => new Belt(robot, y, around, chance, tickMs),
  faster: (robot, factor) => ({ ...robot, belt: { ...robot.belt, topSpeed: robot.belt.topSpeed * factor } }),
  widthMm: () => 0,
  drive: ({ belt }) => ({ motors: [belt], tractionMmS2: Number.POSITIVE_INFINITY }),
  withMotor: (robot, id, change) => (robot.belt.id === id ? { ...robot, belt: { ...robot.belt, ...change } } : robot),
};
