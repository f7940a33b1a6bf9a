import { sinCos } from "../arithmetic";
import { displayToLinear, hexToRgb } from "../colour";
import type { TargetId } from "../names";
import type { Target } from "../rules";
import type { DrawnCourse } from "./courses/DrawnCourse";
import type { Shape } from "./courses/shapes";

/** What lies under a point: the index of a patch, or −1 − k for line k, or `GROUND`. */
export type Surface = number;
export const GROUND: Surface = Number.MIN_SAFE_INTEGER;

/** Shapes are looked up by square cells of this side in mm. */
const CELL = 100;
/** The schema's limit for `spotMm`. */
const MOST_SPOT = 200;

/** One surface of paint on the floor. */
interface Placed {
  surface: Surface;
  paint: Float64Array;
  target: TargetId;
  outline: Outline;
}

export interface Outline {
  /** A point's distance beyond the edge, in mm; inside it is not above 0. */
  beyond(x: number, y: number): number;
  /**
   * How far a point lies inside, in mm; negative outside. Inside it is the distance to the edge; outside the true
   * distance is at least as great.
   */
  depth(x: number, y: number): number;
  box: [left: number, bottom: number, right: number, top: number];
}

const NOTHING: readonly Placed[] = [];
/** So many cells are remembered, a power of two. */
const LAST = 16;

/** A course made ready to be asked what lies where. */
export class Floor {
  private readonly cells = new Map<number, Placed[]>();
  private readonly ground: Placed;
  /** What the spot that was asked for last touched at an edge, and how many of its points lay on each. */
  readonly touched: { surface: Surface; points: number }[] = [];
  /** One asks mostly about the cells that were asked about before, each sensor about its own. */
  private readonly lastKeys = new Int32Array(LAST).fill(-1);
  private readonly lastCells: (readonly Placed[])[] = Array.from({ length: LAST }, () => NOTHING);

  /** @param spotMm the widest spot that will be asked for: the less, the fewer shapes there are to look at. */
  constructor(
    readonly course: DrawnCourse,
    targets: readonly Target[],
    private readonly spotMm = MOST_SPOT,
  ) {
    const paints = new Map(targets.map((t) => [t.id, Float64Array.from(hexToRgb(t.paint), displayToLinear)]));
    const paintOf = (target: TargetId) => paints.get(target) ?? new Float64Array(3);
    this.ground = { surface: GROUND, paint: paintOf(course.ground), target: course.ground, outline: EVERYWHERE };
    // Topmost first: later patches, then earlier ones, then lines.
    for (let i = course.patches.length - 1; i >= 0; i--) {
      const { target, shape, at, angle } = course.patches[i];
      this.place({ surface: i, paint: paintOf(target), target, outline: outlineOf(shape, at, angle) });
    }
    course.lines.forEach(({ points, width, target, apart }, k) => {
      for (let i = 1; i < points.length; i += apart ? 2 : 1) {
        this.place({
          surface: -1 - k,
          paint: paintOf(target),
          target,
          outline: new SegmentOutline(points[i - 1], points[i], width / 2),
        });
      }
    });
  }

  /** Enters a shape into every cell from which a spot can touch it. */
  private place(shape: Placed): void {
    const [left, bottom, right, top] = shape.outline.box;
    const reach = this.spotMm / 2;
    for (let cx = cellOf(left - reach); cx <= cellOf(right + reach); cx++) {
      for (let cy = cellOf(bottom - reach); cy <= cellOf(top + reach); cy++) {
        const key = cellKey(cx, cy);
        const cell = this.cells.get(key);
        if (cell) cell.push(shape);
        else this.cells.set(key, [shape]);
      }
    }
  }

  /** Patches that were taken away. */
  readonly gone = new Set<Surface>();

  /** Takes a patch away. */
  lift(surface: Surface): void {
    this.gone.add(surface);
    for (const cell of this.cells.values()) {
      const at = cell.findIndex((shape) => shape.surface === surface);
      if (at >= 0) cell.splice(at, 1);
    }
  }

  private cellAt(x: number, y: number): readonly Placed[] {
    const key = cellKey(cellOf(x), cellOf(y));
    const place = key & (LAST - 1);
    if (key !== this.lastKeys[place]) {
      this.lastKeys[place] = key;
      this.lastCells[place] = this.cells.get(key) ?? NOTHING;
    }
    return this.lastCells[place];
  }

  private topmost(shapes: readonly Placed[], x: number, y: number, from = 0): Placed {
    for (let i = from; i < shapes.length; i++) if (shapes[i].outline.depth(x, y) >= 0) return shapes[i];
    return this.ground;
  }

  /** What lies under a point in mm. */
  surfaceAt(x: number, y: number): Surface {
    return this.topmost(this.cellAt(x, y), x, y).surface;
  }

  /** How strong the room's light is at a point, as a share of what it is elsewhere. */
  levelAt(x: number, y: number): number {
    let level = 1;
    for (const { from, to, level: here } of this.course.shade) {
      const within =
        x >= Math.min(from[0], to[0]) &&
        x <= Math.max(from[0], to[0]) &&
        y >= Math.min(from[1], to[1]) &&
        y <= Math.max(from[1], to[1]);
      if (within) level *= here;
    }
    return level;
  }

  /** What lies under the point, as a target. */
  targetAt(x: number, y: number): TargetId {
    return this.topmost(this.cellAt(x, y), x, y).target;
  }

  /**
   * Mean linear reflectance (into `out`, three channels) over a disc of `spotMm` around a point: 19 points in rings of
   * 1, 6 and 12. Returns the surface when the whole disc lies on it; else undefined, and `touched` tells what it lies on.
   */
  spotAt(x: number, y: number, spotMm: number, out: Float64Array): Surface | undefined {
    const shapes = this.cellAt(x, y);
    const radius = spotMm / 2;
    // Most spots lie wholly on one thing; only at an edge are the 19 points asked one by one.
    let first = 0;
    while (first < shapes.length && shapes[first].outline.depth(x, y) < -radius) first++;
    const top = first < shapes.length ? shapes[first] : this.ground;
    if (top === this.ground || top.outline.depth(x, y) >= radius) {
      out[0] = top.paint[0];
      out[1] = top.paint[1];
      out[2] = top.paint[2];
      return top.surface;
    }
    const centre = this.topmost(shapes, x, y, first);
    const { touched } = this;
    touched.length = 0;
    touched.push({ surface: centre.surface, points: 1 });
    let [r, g, b] = centre.paint;
    for (let i = 0; i < RING_X.length; i++) {
      const at = this.topmost(shapes, x + RING_X[i] * radius, y + RING_Y[i] * radius, first);
      const known = touched.find(({ surface }) => surface === at.surface);
      if (known === undefined) touched.push({ surface: at.surface, points: 1 });
      else known.points++;
      r += at.paint[0];
      g += at.paint[1];
      b += at.paint[2];
    }
    const n = RING_X.length + 1;
    out[0] = r / n;
    out[1] = g / n;
    out[2] = b / n;
    return touched.length === 1 ? centre.surface : undefined;
  }
}

const cellOf = (v: number) => Math.floor(v / CELL);
/** One small number for a cell; cells reach 2 048 to either side, twice as far as a course can. */
const cellKey = (cx: number, cy: number) => (cx + 2048) * 8192 + (cy + 2048);

/**
 * Rings of 6 and 12 points. Their radii, √(4/19) and √(13/19) of the disc's, lie in the middle of rings of equal
 * area a point, so that each point stands for the same share of the disc.
 */
const ring = (count: number, radius: number) =>
  Array.from({ length: count }, (_, i) => ({ ...sinCos((i * 360) / count), radius }));
const RING = [...ring(6, Math.sqrt(4 / 19)), ...ring(12, Math.sqrt(13 / 19))];
export const RING_X = Float64Array.from(RING, (p) => p.cos * p.radius);
const RING_Y = Float64Array.from(RING, (p) => p.sin * p.radius);

/** A shape at a place, turned by an angle. */
export function outlineOf(shape: Shape, at: readonly [number, number], angle: number): Outline {
  if ("disc" in shape) return new DiscOutline(at, shape.disc / 2);
  return "rect" in shape ? new RectOutline(at, shape.rect, angle) : new PolygonOutline(at, shape.polygon, angle);
}

/** A line's stretch from one point to another. */
export const segmentOutline = (from: readonly [number, number], to: readonly [number, number], half: number): Outline =>
  new SegmentOutline(from, to, half);

/** Asks whether points in mm lie in a shape at a place, turned by an angle. */
export function shapeTest(placed: { shape: Shape; at: readonly [number, number]; angle: number }) {
  const outline = outlineOf(placed.shape, placed.at, placed.angle);
  return (x: number, y: number): boolean => outline.depth(x, y) >= 0;
}

const EVERYWHERE: Outline = {
  depth: () => Number.POSITIVE_INFINITY,
  beyond: () => Number.NEGATIVE_INFINITY,
  box: [0, 0, 0, 0],
};

class DiscOutline implements Outline {
  readonly box: Outline["box"];
  constructor(
    private readonly at: readonly [number, number],
    private readonly radius: number,
  ) {
    const [x, y] = at;
    this.box = [x - radius, y - radius, x + radius, y + radius];
  }
  depth(x: number, y: number): number {
    const dx = x - this.at[0];
    const dy = y - this.at[1];
    return this.radius - Math.sqrt(dx * dx + dy * dy);
  }
  beyond(x: number, y: number): number {
    return -this.depth(x, y);
  }
}

class RectOutline implements Outline {
  readonly box: Outline["box"];
  private readonly sin: number;
  private readonly cos: number;
  private readonly along: number;
  private readonly across: number;
  constructor(
    private readonly at: readonly [number, number],
    rect: readonly [number, number],
    angle: number,
  ) {
    const { sin, cos } = sinCos(angle);
    this.sin = sin;
    this.cos = cos;
    this.along = rect[0] / 2;
    this.across = rect[1] / 2;
    const reachX = Math.abs(cos) * this.along + Math.abs(sin) * this.across;
    const reachY = Math.abs(sin) * this.along + Math.abs(cos) * this.across;
    this.box = [at[0] - reachX, at[1] - reachY, at[0] + reachX, at[1] + reachY];
  }
  depth(x: number, y: number): number {
    const dx = x - this.at[0];
    const dy = y - this.at[1];
    const inAlong = this.along - Math.abs(dx * this.cos + dy * this.sin);
    const inAcross = this.across - Math.abs(dy * this.cos - dx * this.sin);
    return Math.min(inAlong, inAcross);
  }
  beyond(x: number, y: number): number {
    const dx = x - this.at[0];
    const dy = y - this.at[1];
    const along = Math.abs(dx * this.cos + dy * this.sin) - this.along;
    const across = Math.abs(dy * this.cos - dx * this.sin) - this.across;
    return along > 0 && across > 0 ? Math.sqrt(along * along + across * across) : Math.max(along, across);
  }
}

/** Corners around a place, turned; may be hollow anywhere but not cross itself. */
class PolygonOutline implements Outline {
  readonly box: Outline["box"];
  private readonly xs: Float64Array;
  private readonly ys: Float64Array;
  constructor(at: readonly [number, number], corners: readonly (readonly [number, number])[], angle: number) {
    const { sin, cos } = sinCos(angle);
    this.xs = Float64Array.from(corners, ([x, y]) => at[0] + x * cos - y * sin);
    this.ys = Float64Array.from(corners, ([x, y]) => at[1] + x * sin + y * cos);
    this.box = [Math.min(...this.xs), Math.min(...this.ys), Math.max(...this.xs), Math.max(...this.ys)];
  }
  depth(x: number, y: number): number {
    const { xs, ys } = this;
    let inside = false;
    let nearest = Number.POSITIVE_INFINITY;
    for (let i = 0, j = xs.length - 1; i < xs.length; j = i++) {
      if (ys[i] > y !== ys[j] > y && x < ((xs[j] - xs[i]) * (y - ys[i])) / (ys[j] - ys[i]) + xs[i]) inside = !inside;
      const dx = xs[j] - xs[i];
      const dy = ys[j] - ys[i];
      const share = ((x - xs[i]) * dx + (y - ys[i]) * dy) / (dx * dx + dy * dy || 1);
      const along = share < 0 ? 0 : Math.min(share, 1);
      const ox = x - xs[i] - along * dx;
      const oy = y - ys[i] - along * dy;
      nearest = Math.min(nearest, ox * ox + oy * oy);
    }
    return inside ? Math.sqrt(nearest) : -Math.sqrt(nearest);
  }
  beyond(x: number, y: number): number {
    return -this.depth(x, y);
  }
}

class SegmentOutline implements Outline {
  readonly box: Outline["box"];
  private readonly dx: number;
  private readonly dy: number;
  private readonly square: number;
  constructor(
    private readonly from: readonly [number, number],
    to: readonly [number, number],
    private readonly half: number,
  ) {
    this.dx = to[0] - from[0];
    this.dy = to[1] - from[1];
    this.square = this.dx * this.dx + this.dy * this.dy || 1;
    this.box = [
      Math.min(from[0], to[0]) - half,
      Math.min(from[1], to[1]) - half,
      Math.max(from[0], to[0]) + half,
      Math.max(from[1], to[1]) + half,
    ];
  }
  depth(x: number, y: number): number {
    const px = x - this.from[0];
    const py = y - this.from[1];
    const share = (px * this.dx + py * this.dy) / this.square;
    const along = share < 0 ? 0 : Math.min(share, 1);
    const ox = px - along * this.dx;
    const oy = py - along * this.dy;
    return this.half - Math.sqrt(ox * ox + oy * oy);
  }
  beyond(x: number, y: number): number {
    return -this.depth(x, y);
  }
}
