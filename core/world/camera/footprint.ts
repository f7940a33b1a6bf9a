import { sinCos } from "../../arithmetic";
import type { DrawnCourse } from "../courses/DrawnCourse";
import type { Shape } from "../courses/shapes";
import type { Standpoint } from "./View";

type Point = readonly [x: number, y: number];

/** The outline of one piece of paint on the floor: corners, discs, or both; what lies in any of them is painted. */
export class Footprint {
  /** A circle around it, in mm. */
  readonly x: number;
  readonly y: number;
  readonly reach: number;
  /** The same as the camera has it that was turned to last: mm ahead and to the left. */
  private readonly ahead: Float64Array;
  private readonly left: Float64Array;

  /** @param corners the outline's, and then the middles of the discs, all of the same radius */
  constructor(
    /** Its place among the things of the course. */
    readonly thing: number,
    private readonly corners: readonly Point[],
    private readonly middles: readonly Point[] = [],
    private readonly radius = 0,
  ) {
    const all = [...corners, ...middles];
    const [xs, ys] = [all.map(([x]) => x), all.map(([, y]) => y)];
    this.x = (Math.min(...xs) + Math.max(...xs)) / 2;
    this.y = (Math.min(...ys) + Math.max(...ys)) / 2;
    this.reach = radius + Math.max(...all.map(([x, y]) => Math.sqrt((x - this.x) ** 2 + (y - this.y) ** 2)));
    this.ahead = new Float64Array(all.length);
    this.left = new Float64Array(all.length);
  }

  /** Takes its points as a camera has them. */
  turnTo(at: Standpoint): void {
    const { corners, middles } = this;
    for (let i = 0; i < this.ahead.length; i++) {
      const [x, y] = i < corners.length ? corners[i] : middles[i - corners.length];
      const [east, north] = [x - at.x, y - at.y];
      this.ahead[i] = east * at.cos + north * at.sin;
      this.left[i] = north * at.cos - east * at.sin;
    }
  }

  /**
   * Where the line across the camera's way, so many mm ahead, is within it: pairs of mm to the left, from the lower to
   * the higher, into `out`. Gives how many numbers there are.
   */
  crossings(at: number, out: Float64Array): number {
    const { ahead, left, corners, radius } = this;
    const n = corners.length;
    let found = 0;
    for (let i = 0, j = n - 1; i < n; j = i++) {
      if (ahead[i] > at === ahead[j] > at || found === out.length) continue;
      const crossed = left[i] + ((at - ahead[i]) / (ahead[j] - ahead[i])) * (left[j] - left[i]);
      let k = found++;
      for (; k > 0 && out[k - 1] > crossed; k--) out[k] = out[k - 1];
      out[k] = crossed;
    }
    for (let i = n; i < ahead.length && found + 1 < out.length; i++) {
      const off = at - ahead[i];
      const square = radius * radius - off * off;
      if (square < 0) continue;
      const half = Math.sqrt(square);
      out[found++] = left[i] - half;
      out[found++] = left[i] + half;
    }
    return found;
  }
}

/** Everything painted on the floor of a course, what lies on top last: of lines, as on any floor, the first. */
export function footprints({ patches, signs, cards, lines }: DrawnCourse): Footprint[] {
  const firstLine = patches.length + signs.length + cards.length;
  return [
    ...lines
      .map(({ points, width, apart }, k) => stretches(firstLine + k, points, width / 2, apart === true))
      .reverse()
      .flat(),
    ...patches.map(({ shape, at, angle }, i) =>
      "disc" in shape ? new Footprint(i, [], [at], shape.disc / 2) : new Footprint(i, cornersOf(shape, at, angle)),
    ),
  ];
}

function stretches(thing: number, points: readonly Point[], half: number, apart: boolean): Footprint[] {
  const made: Footprint[] = [];
  for (let i = 1; i < points.length; i += apart ? 2 : 1) {
    const [from, to] = [points[i - 1], points[i]];
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const long = Math.sqrt(dx * dx + dy * dy) || 1;
    const [ox, oy] = [(-dy / long) * half, (dx / long) * half];
    made.push(
      new Footprint(
        thing,
        [
          [from[0] + ox, from[1] + oy],
          [to[0] + ox, to[1] + oy],
          [to[0] - ox, to[1] - oy],
          [from[0] - ox, from[1] - oy],
        ],
        [from, to],
        half,
      ),
    );
  }
  return made;
}

function cornersOf(shape: Exclude<Shape, { disc: number }>, at: Point, angle: number): Point[] {
  const { sin, cos } = sinCos(angle);
  const corners: readonly Point[] =
    "polygon" in shape
      ? shape.polygon
      : [
          [-shape.rect[0] / 2, -shape.rect[1] / 2],
          [shape.rect[0] / 2, -shape.rect[1] / 2],
          [shape.rect[0] / 2, shape.rect[1] / 2],
          [-shape.rect[0] / 2, shape.rect[1] / 2],
        ];
  return corners.map(([x, y]) => [at[0] + x * cos - y * sin, at[1] + x * sin + y * cos]);
}

/** What of an outline lies at least so deep; corners by their depth, and across and down times it. */
export function polygonIn<P extends readonly [number, number, number]>(
  corners: readonly P[],
  depth: number,
): (readonly [number, number, number])[] {
  return corners.flatMap((corner, i) => {
    const before = corners[(i + corners.length - 1) % corners.length];
    const kept: (readonly [number, number, number])[] = [];
    if (before[0] >= depth !== corner[0] >= depth) {
      const share = (depth - before[0]) / (corner[0] - before[0]);
      kept.push([depth, before[1] + share * (corner[1] - before[1]), before[2] + share * (corner[2] - before[2])]);
    }
    if (corner[0] >= depth) kept.push(corner);
    return kept;
  });
}
