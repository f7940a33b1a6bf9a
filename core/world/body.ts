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
  /** Way of each wheel in mm, as its encoder counts it; goes on counting. */
  readonly travel: { left: number; right: number };
  /** Speeds as shares of top speed, −1..1; null lets a wheel run out. */
  command(left: number | null, right: number | null): void;
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
