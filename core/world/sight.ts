import { sinCos } from "../arithmetic";
import { displayToLinear, hexToRgb } from "../colour";
import type { Target } from "../rules";
import type { DrawnCourse } from "./courses/DrawnCourse";
import { RING_X } from "./floor";

/** Beyond this many mm a sensor that looks ahead or to a side sees nothing but the room. */
export const SIGHT_MM = 600;

/** A sign that a sensor which looks along the floor has before it. */
export interface Seen {
  /** The sign's number. */
  sign: number;
  /** Distance in mm. */
  distance: number;
  /** The share of the spot that lies on it and on no nearer one, 0..1. */
  share: number;
}

/** The points of a spot across the line of sight, in its radius: its middle first. */
const POINTS = Float64Array.of(0, ...RING_X);
const ALL_POINTS = 2 ** POINTS.length - 1;

/** The signs of a course, made ready to be looked at. */
export class Signs {
  private readonly boards: {
    x: number;
    y: number;
    height: number;
    half: number;
    normal: { sin: number; cos: number };
    paint: Float64Array;
  }[];

  /** The boards that a line of sight meets, used again for each look. */
  private readonly met: { sign: number; distance: number; points: number }[] = [];

  constructor({ signs }: DrawnCourse, targets: readonly Target[]) {
    this.boards = signs.map(({ at, angle, width, height, target }) => ({
      x: at[0],
      y: at[1],
      height,
      half: width / 2,
      normal: sinCos(angle),
      paint: Float64Array.from(hexToRgb(targets.find((t) => t.id === target)?.paint ?? "#000000"), displayToLinear),
    }));
  }

  /** The linear reflectance of a sign's painted side. */
  paintOf(sign: number): ArrayLike<number> {
    return this.boards[sign].paint;
  }

  /**
   * What lies before a sensor at (x, y, z) that looks in the direction (cos, sin): the boards whose painted side faces it,
   * the nearest first, each with the part of the spot that passes by the nearer ones.
   */
  look(x: number, y: number, z: number, cos: number, sin: number, spotMm: number): readonly Seen[] {
    const { met } = this;
    met.length = 0;
    for (let i = 0; i < this.boards.length; i++) {
      const board = this.boards[i];
      const { normal } = board;
      const towards = -(cos * normal.cos + sin * normal.sin);
      if (towards <= 0.05 || z > board.height) continue;
      const distance = ((x - board.x) * normal.cos + (y - board.y) * normal.sin) / towards;
      if (distance <= 0 || distance >= SIGHT_MM) continue;
      // Along the board from its middle, where the line of sight meets it.
      const along = -(x + cos * distance - board.x) * normal.sin + (y + sin * distance - board.y) * normal.cos;
      const points = pointsWithin(along, board.half, spotMm / 2);
      if (points !== 0) met.push({ sign: i, distance, points });
    }
    if (met.length > 1) met.sort((a, b) => a.distance - b.distance);
    let left = ALL_POINTS;
    const seen: Seen[] = [];
    for (const { sign, distance, points } of met) {
      const own = points & left;
      left &= ~points;
      if (own !== 0) seen.push({ sign, distance, share: own === ALL_POINTS ? 1 : bitsIn(own) / POINTS.length });
    }
    return seen;
  }
}

/** The points of a spot that lie within half a board's width of its middle, a bit each. */
function pointsWithin(along: number, half: number, radius: number): number {
  const off = Math.abs(along);
  if (off <= half - radius) return ALL_POINTS;
  if (off >= half + radius) return 0;
  let points = 0;
  for (let i = 0; i < POINTS.length; i++) if (Math.abs(along + POINTS[i] * radius) <= half) points |= 1 << i;
  return points;
}

function bitsIn(set: number): number {
  let n = 0;
  for (let left = set; left !== 0; left &= left - 1) n++;
  return n;
}
