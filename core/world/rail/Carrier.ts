import { sinCos } from "../../arithmetic";
import type { Body } from "../body";
import type { Chance } from "../chance";
import type { CarrierRobot } from "../robots/carrierSchema";
import { newWheel, slips, tellWheel, turnWheel, type Wheel } from "../wheel";
import { DEGREE, type LaidPiece, type OnRail, type RailWay, turnBetween } from "./railWay";

/** Where a carrier begins: so many mm along a rail, its nose in the direction of the way or against it. */
export interface RailBeginning {
  way: RailWay;
  at: number;
  facing: "forward" | "back";
}

/**
 * A carrier on a rail: the middles of its two bogies lie on it, `bogieMm` apart in a straight line, and its body is the
 * chord between them. The way that its wheels turn is the motor's; slip is what they turn farther than it goes.
 */
export class Carrier implements Body {
  x = 0;
  y = 0;
  heading = 0;
  sin = 0;
  cos = 1;
  slipping = false;
  /** Whether it ran into the end of an open rail. */
  hitEnd = false;
  readonly travel = { left: 0, right: 0 };
  /** The body's middle, in mm along the rail; on a closed one it goes on counting. */
  mm: number;
  private readonly wheel: Wheel;
  private readonly nose: 1 | -1;
  private coasting = false;
  /** The section that it is on with both bogies, and for a bend how far from its middle the body is. */
  private within: LaidPiece | undefined;
  private inside = 0;
  /** Each bogie's distance from the middle along that section, in mm. */
  private half = 0;

  constructor(
    private readonly robot: CarrierRobot,
    private readonly on: RailBeginning,
    chance: Chance,
    private readonly tickMs: number,
  ) {
    this.wheel = newWheel(robot.motor, chance, tickMs);
    this.nose = on.facing === "back" ? -1 : 1;
    this.mm = on.at;
    this.place();
  }

  /** Both say the same to a machine with one motor: their mean. */
  command(left: number | null, right: number | null): void {
    this.coasting = left === null || right === null;
    tellWheel(this.wheel, left === null || right === null ? null : (left + right) / 2);
  }

  step(): void {
    const { wheel, robot, tickMs } = this;
    const seconds = tickMs / 1000;
    if (this.coasting) coast(wheel, robot.coastMmS2 * seconds, seconds);
    else turnWheel(wheel, seconds, robot.tractionMmS2);
    this.travel.left = wheel.travel;
    this.travel.right = wheel.travel;
    this.slipping = slips(wheel);
    if (wheel.ground === 0) return;
    this.mm += this.nose * wheel.ground * seconds;
    this.stopAtEnds();
    this.place();
  }

  get speed(): number {
    return this.wheel.ground;
  }

  /** An open rail has a buffer at each end, which the foremost bogie meets. */
  private stopAtEnds(): void {
    const { way } = this.on;
    if (way.closed) return;
    const { half } = this;
    const within = Math.max(half, Math.min(way.length - half, this.mm));
    if (within === this.mm) return;
    this.mm = within;
    this.wheel.ground = 0;
    this.hitEnd = true;
  }

  /** Where the body is: the middle of the chord between its bogies, its nose along it. */
  private place(): void {
    const { way } = this.on;
    const at = way.wrapped(this.mm);
    const known = this.within;
    // With both bogies on one section it goes straight on, or around the middle of a bend; that is most of the way.
    if (known === undefined || at - this.half < known.from || at + this.half > known.to) {
      const { bogieMm } = this.robot;
      this.half = bogiesFrom(way, this.mm, bogieMm);
      this.within = way.sectionAround(at, this.half);
      this.inside = this.within && "arc" in this.within.section ? chordRadius(this.within.section.radius, bogieMm) : 0;
      Object.assign(this, bodyOnRail(way, this.mm, bogieMm, this.nose));
      return;
    }
    const { section, start, from } = known;
    if ("straight" in section) {
      this.x = start.x + (at - from) * start.cos;
      this.y = start.y + (at - from) * start.sin;
      return;
    }
    const side = section.arc < 0 ? -1 : 1;
    const along = start.heading + (side * (at - from)) / (section.radius * DEGREE);
    const { sin, cos } = sinCos(along);
    this.x = start.x + side * (this.inside * sin - section.radius * start.sin);
    this.y = start.y - side * (this.inside * cos - section.radius * start.cos);
    this.heading = along + (this.nose < 0 ? 180 : 0);
    this.sin = this.nose * sin;
    this.cos = this.nose * cos;
  }
}

/** The distance of a chord's middle from a bend's middle, for a chord of `long` mm. */
const chordRadius = (radius: number, long: number): number => Math.sqrt(Math.max(0, radius * radius - (long / 2) ** 2));

/** Bogies are as far apart as they are built to within this, in mm. */
const NEAR_ENOUGH = 1e-9;
/** Steps in which that is reached; each leaves less than half of what was missing. */
const MOST_STEPS = 60;

/**
 * Each bogie's distance from the body's place, in mm along the rail: a body is rigid, so that they are `bogieMm` apart
 * in a straight line, and farther along a bend.
 */
function bogiesFrom(way: RailWay, mm: number, bogieMm: number): number {
  let half = bogieMm / 2;
  for (let k = 0; k < MOST_STEPS; k++) {
    const [front, rear] = [way.at(mm + half), way.at(mm - half)];
    const missing = bogieMm - Math.sqrt((front.x - rear.x) ** 2 + (front.y - rear.y) ** 2);
    if (Math.abs(missing) < NEAR_ENOUGH) break;
    half += missing / 2;
  }
  return half;
}

/** A body at a place of a rail, in mm along it: the middle of the chord between its bogies, its nose along it. */
export function bodyOnRail(way: RailWay, mm: number, bogieMm: number, nose: 1 | -1): OnRail {
  const half = bogiesFrom(way, mm, bogieMm);
  const front = way.at(mm + nose * half);
  const rear = way.at(mm - nose * half);
  const [dx, dy] = [front.x - rear.x, front.y - rear.y];
  const long = Math.sqrt(dx * dx + dy * dy);
  return {
    x: (front.x + rear.x) / 2,
    y: (front.y + rear.y) / 2,
    heading: rear.heading + turnBetween(rear.heading, front.heading) / 2 + (nose < 0 ? 180 : 0),
    // A body without length, or whose ends meet, looks along the rail.
    cos: long === 0 ? nose * front.cos : dx / long,
    sin: long === 0 ? nose * front.sin : dy / long,
  };
}

/** Power off: the wheel rolls with the carrier, which slows down evenly. */
function coast(wheel: Wheel, most: number, seconds: number): void {
  wheel.ground -= Math.max(-most, Math.min(most, wheel.ground));
  wheel.rim = wheel.ground;
  wheel.travel += wheel.rim * seconds * wheel.sign;
}
