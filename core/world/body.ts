/** What became of a piece: the crate that it fell into, or null where a gate jammed it. */
export interface Landed {
  piece: number;
  into: string | null;
  /** The gate that moved it; missing at the belt's end. */
  gate?: string;
}

/** What moves through a course, or stands there: where it is, and what its wheels have done. */
export interface Body {
  readonly x: number;
  readonly y: number;
  /** Degrees counter-clockwise from east, with its sine and cosine. */
  readonly heading: number;
  readonly sin: number;
  readonly cos: number;
  /** Over the floor, mm/s. */
  readonly speed: number;
  readonly slipping: boolean;
  /** Whether it ran into the end of what it runs on. */
  readonly hitEnd?: boolean;
  /** How far what it lies on has moved ahead under it: a belt carries its pieces through the room. */
  readonly rolled?: number;
  /** Pieces that left a belt in the last tick; who takes them in empties it. */
  landed?: Landed[];
  /** Whether nothing is left on a belt. */
  readonly empty?: boolean;
  /** Way of each wheel in mm, as its encoder counts it; goes on counting. */
  readonly travel: { left: number; right: number };
  /** Speeds as shares of top speed, −1..1; null lets a wheel run out. */
  command(left: number | null, right: number | null): void;
  /** Opens or closes a gate. */
  gate?(id: string, open: boolean): void;
  /** Moves on by one tick. */
  step(): void;
}

const STILL = { left: 0, right: 0 };

/** A body that stays where it is. */
export const standing = ({ x, y }: { x: number; y: number }): Body => ({
  x,
  y,
  heading: 0,
  sin: 0,
  cos: 1,
  speed: 0,
  slipping: false,
  travel: STILL,
  command() {},
  step() {},
});
