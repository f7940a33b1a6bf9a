/**
 * A whole number of at most 31 bits. What is written with it is written for robots, too, whose languages tell whole
 * numbers from others.
 */
export type int = number;
/** A double. */
export type num = number;

/** A number that is whole already, where a whole one is needed: the place of something. */
export function whole(x: num): int {
  return x;
}
