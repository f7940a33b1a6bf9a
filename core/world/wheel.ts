import { expMinus } from "../arithmetic";
import type { Chance } from "./chance";
import type { Motor } from "./robots/parts";

/** How much faster than the floor a wheel may turn, in mm/s, before that counts as slip. */
export const SLIP_MM_S = 8;

/** One driven wheel: what its motor was told, and how fast its rim and the floor under it go. */
export interface Wheel {
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

/** A wheel that stands, driven by a motor. A motor without regulation runs up to 4 % off, each time alike. */
export function newWheel(motor: Motor, chance: Chance, tickMs: number): Wheel {
  const left = (lagMs: number) => (lagMs === 0 ? 0 : expMinus(tickMs / lagMs));
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
}

/** Whether the rim runs ahead of the floor. */
export const slips = (wheel: Wheel): boolean => Math.abs(wheel.rim - wheel.ground) > SLIP_MM_S;

/** A share of top speed, −1..1; null lets the wheel run out. */
export function tellWheel(wheel: Wheel, command: number | null): void {
  const { motor } = wheel;
  const still = command === null || (!motor.regulated && Math.abs(command) < motor.deadBand);
  wheel.goal = still ? 0 : command * motor.topSpeed * wheel.factor * wheel.sign;
  wheel.keep = command === null ? wheel.keepCoasting : wheel.keepDriven;
}

/** First-order lag of the motor; the floor under the wheel follows it no faster than traction allows. */
export function turnWheel(wheel: Wheel, seconds: number, traction: number): void {
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
