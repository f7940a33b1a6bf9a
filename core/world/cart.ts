import { expMinus, sinCos } from "../arithmetic";
import type { Body } from "./body";
import type { Chance } from "./chance";
import type { CartRobot } from "./robots/cartSchema";
import type { Motor } from "./robots/parts";

/** How much faster than the floor a wheel may turn, in mm/s, before that counts as slip. */
export const SLIP_MM_S = 8;

interface Wheel {
  motor: Motor;
  /** How this motor differs from the one that it should be. */
  factor: number;
  /** −1 for a wheel that turns the other way than it is told. */
  sign: number;
  /** The speed that it was told, in mm/s, and the share of a difference to it that is left after one tick. */
  goal: number;
  keep: number;
  /** Speed of the wheel's rim and of the floor under it, mm/s. */
  rim: number;
  ground: number;
  travel: number;
  /** The share of a speed difference that is left after one tick, driven and coasting. */
  keepDriven: number;
  keepCoasting: number;
}

/** A coasting wheel runs out five times slower than a driven one follows. */
const COAST = 5;

/** A cart on a floor: the axle's middle at (x, y) in mm, heading in degrees counter-clockwise from east. */
export class Cart implements Body {
  x = 0;
  y = 0;
  heading = 0;
  sin: number;
  cos: number;
  slipping = false;
  /** Way of each wheel in mm, as its encoder counts it; goes on counting. */
  readonly travel = { left: 0, right: 0 };
  readonly left: Wheel;
  readonly right: Wheel;

  constructor(
    private readonly robot: CartRobot,
    start: { x: number; y: number; heading: number },
    chance: Chance,
    private readonly tickMs: number,
  ) {
    this.x = start.x;
    this.y = start.y;
    this.heading = start.heading;
    ({ sin: this.sin, cos: this.cos } = sinCos(start.heading));
    const left = (lagMs: number) => (lagMs === 0 ? 0 : expMinus(tickMs / lagMs));
    // A motor without regulation runs up to 4 % off.
    const wheel = (motor: Motor): Wheel => {
      const off = 0.04 * (2 * chance.uniform() - 1);
      return {
        motor,
        factor: motor.regulated ? 1 : 1 + off,
        sign: motor.mountedReversed !== motor.invert ? -1 : 1,
        goal: 0,
        keep: left(motor.lagMs),
        rim: 0,
        ground: 0,
        travel: 0,
        keepDriven: left(motor.lagMs),
        keepCoasting: left(COAST * motor.lagMs),
      };
    };
    this.left = wheel(robot.motors[0]);
    this.right = wheel(robot.motors[1]);
  }

  /** Speeds as shares of top speed, −1..1; null lets a wheel run out. */
  command(left: number | null, right: number | null): void {
    tell(this.left, left);
    tell(this.right, right);
  }

  /** Moves on by one tick. */
  step(): void {
    const seconds = this.tickMs / 1000;
    const { left, right, robot } = this;
    turnWheel(left, seconds, robot.tractionMmS2);
    turnWheel(right, seconds, robot.tractionMmS2);
    this.travel.left = left.travel;
    this.travel.right = right.travel;
    this.slipping = Math.abs(left.rim - left.ground) > SLIP_MM_S || Math.abs(right.rim - right.ground) > SLIP_MM_S;
    const forward = ((left.ground + right.ground) / 2) * seconds;
    const turned = ((right.ground - left.ground) / robot.trackMm) * seconds * (180 / Math.PI);
    if (turned === 0) {
      this.x += forward * this.cos;
      this.y += forward * this.sin;
    } else {
      const { sin, cos } = sinCos(this.heading + turned / 2);
      this.x += forward * cos;
      this.y += forward * sin;
      this.heading += turned;
      ({ sin: this.sin, cos: this.cos } = sinCos(this.heading));
    }
  }

  /** Speed of the axle's middle over the floor, mm/s. */
  get speed(): number {
    return (this.left.ground + this.right.ground) / 2;
  }
}

/** A share of top speed, −1..1; null lets the wheel run out. */
function tell(wheel: Wheel, command: number | null): void {
  const { motor } = wheel;
  const still = command === null || (!motor.regulated && Math.abs(command) < motor.deadBand);
  wheel.goal = still ? 0 : command * motor.topSpeed * wheel.factor * wheel.sign;
  wheel.keep = command === null ? wheel.keepCoasting : wheel.keepDriven;
}

/** First-order lag of the motor; the floor under the wheel follows it no faster than traction allows. */
function turnWheel(wheel: Wheel, seconds: number, traction: number): void {
  const { goal } = wheel;
  if (wheel.rim !== goal || wheel.ground !== goal) follow(wheel, goal, traction * seconds);
  // The encoder counts the wheel, with the sign that the student's program expects.
  wheel.travel += wheel.rim * seconds * wheel.sign;
}

/** One tick's way towards a speed; the floor's changes by at most so much. */
function follow(wheel: Wheel, goal: number, most: number): void {
  wheel.rim = goal + (wheel.rim - goal) * wheel.keep;
  if (Math.abs(goal - wheel.rim) < 1e-6) wheel.rim = goal;
  const change = wheel.rim - wheel.ground;
  wheel.ground += change > most ? most : Math.max(change, -most);
}
