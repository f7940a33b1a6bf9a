import { type int, type num, whole } from "../../arithmetic";
import { ask } from "./dispatch";
import type { Engine } from "./Engine";
import { END } from "./rows";

/** Tells whether the conditions that stand from a cell on hold: each leaves its truth, and one that is made of others takes theirs. */
export function holdsAt(e: Engine, first: int): boolean {
  e.waiting = 0;
  let at = first;
  while (e.p.rows[at] !== END) {
    const truth = ask(e, at);
    e.truths[e.waiting] = truth ? 1 : 0;
    e.waiting += 1;
    at += whole(e.p.rows[at + 1]);
  }
  return e.truths[0] === 1;
}

/** Takes `count` truths that wait, and gives how many of them are true. */
export function truthsOf(e: Engine, count: int): int {
  let so = 0;
  for (let i = 0; i < count; i++) {
    e.waiting -= 1;
    so += e.truths[e.waiting];
  }
  return so;
}

/** Both ends belong to a range, or neither, or it starts above its end and goes round. */
export const CLOSED = 0;
export const OPEN = 1;
export const ROUND = 2;

/** Tells whether a value lies in a range. NaN lies in none. */
export function inRange(x: num, low: num, high: num, how: int): boolean {
  if (how === ROUND) return x >= low || x <= high;
  return how === OPEN ? x > low && x < high : x >= low && x <= high;
}
