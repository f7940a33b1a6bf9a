import type { int, num } from "../../arithmetic";
import type { Engine } from "./Engine";

/*
 * Choices of what a row does, by the functions of its kind. In written code these are choices by the kind's number.
 */

/** Begins a step. */
export function beginStep(e: Engine, at: int): void {
  const { begin } = e.kinds.steps[e.p.rows[at]];
  if (begin !== null) begin(e, at);
}

/** Carries a step on. */
export function duringStep(e: Engine, at: int): void {
  const { during } = e.kinds.steps[e.p.rows[at]];
  if (during !== null) during(e, at);
}

/** Tells whether a step has ended; most end at once. */
export function hasEnded(e: Engine, at: int): boolean {
  const { ended } = e.kinds.steps[e.p.rows[at]];
  return ended === null || ended(e, at);
}

/** Ends a step. */
export function endStep(e: Engine, at: int): void {
  const { end } = e.kinds.steps[e.p.rows[at]];
  if (end !== null) end(e, at);
}

/** Tells whether a step goes on beside the steps that follow, until something else takes its output. */
export function isEndless(e: Engine, at: int): boolean {
  return e.kinds.steps[e.p.rows[at]].isEndless;
}

/** Tells whether a step goes on for longer than the moment in which it begins. */
export function lasts(e: Engine, at: int): boolean {
  const { ended, isEndless } = e.kinds.steps[e.p.rows[at]];
  return isEndless || ended !== null;
}

/** Gives the number of a trigger's occasion; NaN where it does not hold. */
export function judge(e: Engine, at: int): num {
  return e.kinds.triggers[e.p.rows[at]](e, at);
}

/** Tells whether a condition holds; the truths of those that it is made of wait. */
export function ask(e: Engine, at: int): boolean {
  return e.kinds.conditions[e.p.rows[at]](e, at);
}
