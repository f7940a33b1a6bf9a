import { sinCos } from "../arithmetic";
import { displayToLinear, hexToRgb } from "../colour";
import type { Target } from "../rules";
import type { DrawnCourse } from "./courses/DrawnCourse";
import { RING_X } from "./floor";

/** Beyond this many mm a sensor that looks ahead or to a side sees nothing but the room. */
export const SIGHT_MM = 600;

/** What a sensor that looks along the floor has before it: the nearest sign, or nothing. */
export interface Seen {
  /** The sign's number, or −1 where there is none. */
  sign: number;
  /** Distance in mm. */
  distance: number;
  /** How much of the spot lies on the sign, 0..1. */
  share: number;
}

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

  /**
   * What lies before a sensor at (x, y, z) that looks in the direction (cos, sin): the nearest board whose painted side
   * faces it. Its linear reflectance over the spot goes into `out`; nothing gives nothing back.
   */
  look(x: number, y: number, z: number, cos: number, sin: number, spotMm: number, out: Float64Array): Seen {
    const seen: Seen = { sign: -1, distance: SIGHT_MM, share: 0 };
    out.fill(0);
    for (let i = 0; i < this.boards.length; i++) {
      const board = this.boards[i];
      const { normal } = board;
      const towards = -(cos * normal.cos + sin * normal.sin);
      if (towards <= 0.05 || z > board.height) continue;
      const distance = ((x - board.x) * normal.cos + (y - board.y) * normal.sin) / towards;
      if (distance <= 0 || distance >= seen.distance) continue;
      // Along the board from its middle, where the line of sight meets it.
      const along = -(x + cos * distance - board.x) * normal.sin + (y + sin * distance - board.y) * normal.cos;
      const share = shareWithin(along, board.half, spotMm / 2);
      if (share === 0) continue;
      Object.assign(seen, { sign: i, distance, share });
      for (let c = 0; c < 3; c++) out[c] = share * board.paint[c];
    }
    return seen;
  }
}

/** The share of a spot's points that lie within half a board's width of its middle. */
function shareWithin(along: number, half: number, radius: number): number {
  const off = Math.abs(along);
  if (off <= half - radius) return 1;
  if (off >= half + radius) return 0;
  let within = off <= half ? 1 : 0;
  for (const x of RING_X) if (Math.abs(along + x * radius) <= half) within++;
  return within / (RING_X.length + 1);
}
