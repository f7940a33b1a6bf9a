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
  /** Commanded share of top speed, or null to coast. */
  command: number | null;
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
        command: 0,
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
    this.left.command = left;
    this.right.command = right;
  }

  /** Moves on by one tick. */
  step(): void {
    const seconds = this.tickMs / 1000;
    turnWheel(this.left, seconds, this.robot.tractionMmS2);
    turnWheel(this.right, seconds, this.robot.tractionMmS2);
    this.travel.left = this.left.travel;
    this.travel.right = this.right.travel;
    this.slipping =
      Math.abs(this.left.rim - this.left.ground) > SLIP_MM_S ||
      Math.abs(this.right.rim - this.right.ground) > SLIP_MM_S;
    const forward = ((this.left.ground + this.right.ground) / 2) * seconds;
    const turned = ((this.right.ground - this.left.ground) / this.robot.trackMm) * seconds * (180 / Math.PI);
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

/** First-order lag of the motor; the floor under the wheel follows it no faster than traction allows. */
function turnWheel(wheel: Wheel, seconds: number, traction: number): void {
  const { motor } = wheel;
  const still = wheel.command === null || (!motor.regulated && Math.abs(wheel.command) < motor.deadBand);
  const wrongWay = motor.mountedReversed !== motor.invert ? -1 : 1;
  const goal = still ? 0 : (wheel.command as number) * motor.topSpeed * wheel.factor * wrongWay;
  if (wheel.rim !== goal || wheel.ground !== goal) follow(wheel, goal, traction * seconds);
  // The encoder counts the wheel, with the sign that the student's program expects.
  wheel.travel += wheel.rim * seconds * wrongWay;
}

/** One tick's way towards a speed; the floor's changes by at most so much. */
function follow(wheel: Wheel, goal: number, most: number): void {
  wheel.rim = goal + (wheel.rim - goal) * (wheel.command === null ? wheel.keepCoasting : wheel.keepDriven);
  if (Math.abs(goal - wheel.rim) < 1e-6) wheel.rim = goal;
  const change = wheel.rim - wheel.ground;
  wheel.ground += change > most ? most : Math.max(change, -most);
}
