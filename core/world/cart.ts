import { sinCos } from "../arithmetic";
import type { Body } from "./body";
import type { Chance } from "./chance";
import type { CartRobot } from "./robots/cartSchema";
import { newWheel, slips, tellWheel, turnWheel, type Wheel } from "./wheel";

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
    this.left = newWheel(robot.motors[0], chance, tickMs);
    this.right = newWheel(robot.motors[1], chance, tickMs);
  }

  /** Speeds as shares of top speed, −1..1; null lets a wheel run out. */
  command(left: number | null, right: number | null): void {
    tellWheel(this.left, left);
    tellWheel(this.right, right);
  }

  /** Moves on by one tick. */
  step(): void {
    const seconds = this.tickMs / 1000;
    const { left, right, robot } = this;
    turnWheel(left, seconds, robot.tractionMmS2);
    turnWheel(right, seconds, robot.tractionMmS2);
    this.travel.left = left.travel;
    this.travel.right = right.travel;
    this.slipping = slips(left) || slips(right);
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
