import { Carrier } from "../rail/Carrier";
import { CarrierRobot } from "./carrierSchema";
import { type Motor, newMotor } from "./parts";
import type { RobotKind } from "./RobotKind";
import { sharedMachine } from "./sharedMachine";

const withMotor = (robot: CarrierRobot, change: (motor: Motor) => Motor): CarrierRobot => ({
  ...robot,
  motor: change(robot.motor),
});

/** A carrier on a rail. */
export const carrier: RobotKind<CarrierRobot> = {
  key: "carrier",
  name: "carrier on a rail",
  origin: "the middle between the bogies",
  schema: CarrierRobot,
  course: "rail",
  fresh: ({ id, name, mounts, lamps, buttons, servos }) => ({
    id,
    name,
    kind: "carrier",
    mounts,
    // Heavy: it follows its motor slowly, so that its wheels hold when it sets off.
    motor: { ...newMotor("motor"), lagMs: 150 },
    wheelMm: 40,
    bogieMm: 120,
    tractionMmS2: 1500,
    coastMmS2: 300,
    lamps,
    buttons,
    servos,
  }),
  machine: (robot) => ({
    ...sharedMachine(robot),
    wheels: { wheelMm: robot.wheelMm },
    topSpeed: robot.motor.topSpeed,
    can: ["drive"],
  }),
  body(robot, { rail }, chance, tickMs) {
    if (rail === undefined) throw new Error("a carrier begins on a rail");
    return new Carrier(robot, rail, chance, tickMs);
  },
  faster: (robot, factor) => withMotor(robot, (motor) => ({ ...motor, topSpeed: motor.topSpeed * factor })),
  widthMm: () => 70,
  drive: ({ motor, tractionMmS2 }) => ({ motors: [motor], tractionMmS2 }),
  withMotor: (robot, id, change) => withMotor(robot, (m) => (m.id === id ? { ...m, ...change } : m)),
};
