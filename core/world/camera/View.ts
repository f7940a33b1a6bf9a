import { sinCos } from "../../arithmetic";
import type { CameraSensor } from "../../readings";
import type { Body } from "../body";
import type { Mount } from "../robots";

/** Where a camera stands in the world and where it looks. */
export interface Standpoint {
  x: number;
  y: number;
  /** Of the direction that it looks in, seen from above. */
  cos: number;
  sin: number;
}

/** Degrees from straight ahead. */
const SIDEWAYS = { down: 0, ahead: 0, left: 90, right: -90 } as const;

/**
 * How a camera's pixels look into the world: a pinhole with square pixels and no distortion. A pixel (column, row) looks
 * along `forward + u · right + v · down` with u = (column − (width − 1) / 2) / f and v = (row − (height − 1) / 2) / f,
 * where f = (width / 2) / tan(viewDeg / 2) px. A camera that looks down is tilted forward from there, another one down
 * from the horizon, by the mount's `tilt`.
 */
export class View {
  /** The focal length in px. */
  readonly focal: number;
  /** The height above the floor in mm. */
  readonly z: number;
  /** Sine and cosine of how far below the horizon it looks. */
  readonly sin: number;
  readonly cos: number;
  private readonly aside: { sin: number; cos: number };

  constructor(
    { frame, camera }: Pick<CameraSensor, "frame" | "camera">,
    private readonly mount: Mount,
  ) {
    const half = sinCos(camera.viewDeg / 2);
    this.focal = (frame.width / 2) * (half.cos / half.sin);
    this.z = mount.z;
    const tilt = mount.tilt ?? 0;
    const { sin, cos } = sinCos(mount.looks === "down" ? 90 - tilt : tilt);
    this.sin = sin;
    this.cos = cos;
    this.aside = sinCos(SIDEWAYS[mount.looks]);
  }

  /** Where it stands on a body. */
  from(body: Pick<Body, "x" | "y" | "sin" | "cos">): Standpoint {
    const { mount, aside } = this;
    return {
      x: body.x + mount.x * body.cos - mount.y * body.sin,
      y: body.y + mount.x * body.sin + mount.y * body.cos,
      cos: body.cos * aside.cos - body.sin * aside.sin,
      sin: body.sin * aside.cos + body.cos * aside.sin,
    };
  }

  /**
   * Where a row looks: `ahead` mm on the floor before the camera, and how far to the left one px left of the middle is
   * there, in mm; undefined for a row at the horizon or beyond.
   */
  floorAt(v: number): { ahead: number; perPx: number; distance: number } | undefined {
    const falls = this.sin + v * this.cos;
    if (falls * FARTHEST_MM < this.z) return undefined;
    const way = this.z / falls;
    return {
      ahead: way * (this.cos - v * this.sin),
      perPx: way / this.focal,
      distance: way * Math.sqrt(1 + v * v),
    };
  }

  /**
   * The row, as v, that looks at the floor so many mm ahead: the farther, the higher. Of a place behind it, it is below
   * all rows, or above them where the camera looks back between its wheels.
   */
  rowOf(ahead: number): number {
    const along = ahead * this.cos + this.z * this.sin;
    if (along <= 0) return this.cos > 0 ? Number.POSITIVE_INFINITY : Number.NEGATIVE_INFINITY;
    return (this.z * this.cos - ahead * this.sin) / along;
  }

  /**
   * The part of the floor that it sees, as corners in mm from its foot, x ahead of the robot and y to its left; what lies
   * farther ahead or behind than `most` mm is left out. None where it sees no floor.
   */
  seenFloor({ width, height }: { width: number; height: number }, most: number): [x: number, y: number][] {
    const { focal, aside } = this;
    const middle = (height - 1) / 2;
    const v = (row: number) => (row - middle) / focal;
    const low = this.floorAt(Math.min(v(height - 0.5), this.rowOf(-most)));
    if (low === undefined) return [];
    const far = Math.max(v(-0.5), this.rowOf(most));
    const high = this.floorAt(far);
    if (high === undefined || high.ahead <= low.ahead) return [];
    const corner = ({ ahead, perPx }: { ahead: number; perPx: number }, side: 1 | -1): [number, number] => {
      const left = (side * width * perPx) / 2;
      return [ahead * aside.cos - left * aside.sin, ahead * aside.sin + left * aside.cos];
    };
    return [corner(low, 1), corner(high, 1), corner(high, -1), corner(low, -1)];
  }

  /**
   * A point in the camera's own frame of directions (ahead and left as seen from above, up from the floor; mm): how deep
   * it lies along its line of sight, and u and v times that depth.
   */
  sight(ahead: number, left: number, up: number): [depth: number, across: number, down: number] {
    const below = this.z - up;
    return [ahead * this.cos + below * this.sin, -left, below * this.cos - ahead * this.sin];
  }
}

/** A ray that meets the floor farther off than this looks at the horizon. */
const FARTHEST_MM = 100_000;
