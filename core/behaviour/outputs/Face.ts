import type { PictureName } from "../pictures";

/** A servo on its way: from an angle to another since a time in ms, at so many degrees a second. */
export interface Turning {
  from: number;
  to: number;
  at: number;
  degreesPerSecond: number;
}

/** The face of a robot at one time: what lights up, is shown, sounds and stands. */
export interface Face {
  /** The colours of lamps, by their names; null for one that is dark. */
  readonly lamps: Map<string, string | null>;
  /** The text on the display, or the picture in its place. */
  display: string;
  picture: PictureName | null;
  /** The tone or the words that sound; empty for nothing. */
  sound: string;
  readonly servos: Map<string, Turning>;
}

/** The time at which a face is looked at, and the most often that a lamp may blink; one that blinks more often is lit. */
export interface FaceTime {
  t: number;
  mostBlinkHz: number;
}

/** Gives the angle of a servo at a time. */
export function degreesAt({ from, to, at, degreesPerSecond }: Turning, t: number): number {
  const way = (Math.max(0, t - at) / 1000) * degreesPerSecond;
  return from < to ? Math.min(to, from + way) : Math.max(to, from - way);
}
