import { Cart } from "../cart";
import { CartRobot } from "./cartSchema";
import { type Motor, newMotor } from "./parts";
import type { RobotKind } from "./RobotKind";
import { sharedMachine } from "./sharedMachine";

const topSpeed = ({ motors }: CartRobot) => Math.min(...motors.map((m) => m.topSpeed));
const withMotors = (robot: CartRobot, change: (motor: Motor) => Motor): CartRobot => {
  const [left, right] = robot.motors;
  return { ...robot, motors: [change(left), change(right)] };
};

/** A cart on a floor. */
export const cart: RobotKind<CartRobot> = {
  key: "cart",
  name: "cart on a floor",
  origin: "the middle of the axle",
  schema: CartRobot,
  course: "floor",
  fresh: ({ id, name, mounts, lamps, buttons, servos }) => ({
    id,
    name,
    kind: "cart",
    mounts,
    motors: [newMotor("left-motor"), newMotor("right-motor")],
    trackMm: 120,
    wheelMm: 56,
    tractionMmS2: 2500,
    lamps,
    buttons,
    servos,
  }),
  machine: (robot) => ({
    ...sharedMachine(robot),
    wheels: { trackMm: robot.trackMm, wheelMm: robot.wheelMm },
    topSpeed: topSpeed(robot),
    can: ["drive", "turn"],
  }),
  body: (robot, start, chance, tickMs) => new Cart(robot, start, chance, tickMs),
  faster: (robot, factor) => withMotors(robot, (m) => ({ ...m, topSpeed: m.topSpeed * factor })),
  widthMm: (robot) => robot.trackMm,
  drive: ({ motors, tractionMmS2 }) => ({ motors, tractionMmS2 }),
  withMotor: (robot, motor, change) => withMotors(robot, (m) => (m.id === motor ? { ...m, ...change } : m)),
};
