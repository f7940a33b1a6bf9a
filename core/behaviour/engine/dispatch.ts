import type { int, num } from "../../arithmetic";
import type { Engine } from "./Engine";

/*
 * What a row does by the functions of its kind. In written code these are choices by the kind's number.
 */

/** What a step does when it begins. */
export function beginStep(e: Engine, at: int): void {
  const { begin } = e.kinds.steps[e.p.rows[at]];
  if (begin !== null) begin(e, at);
}

/** What it does while it goes on. */
export function duringStep(e: Engine, at: int): void {
  const { during } = e.kinds.steps[e.p.rows[at]];
  if (during !== null) during(e, at);
}

/** Whether it has ended; most end at once. */
export function hasEnded(e: Engine, at: int): boolean {
  const { ended } = e.kinds.steps[e.p.rows[at]];
  return ended === null || ended(e, at);
}

/** What it does when it has ended. */
export function endStep(e: Engine, at: int): void {
  const { end } = e.kinds.steps[e.p.rows[at]];
  if (end !== null) end(e, at);
}

/** Whether a step goes on beside the steps that follow, until something else takes its output. */
export function isEndless(e: Engine, at: int): boolean {
  return e.kinds.steps[e.p.rows[at]].isEndless;
}

/** Whether a step goes on for longer than the moment in which it begins. */
export function lasts(e: Engine, at: int): boolean {
  const { ended, isEndless } = e.kinds.steps[e.p.rows[at]];
  return isEndless || ended !== null;
}

/** The number of the occasion of a trigger; NaN where it does not hold. */
export function judge(e: Engine, at: int): num {
  return e.kinds.triggers[e.p.rows[at]](e, at);
}

/** Whether a condition holds, where those that it is made of wait with their truths. */
export function ask(e: Engine, at: int): boolean {
  return e.kinds.conditions[e.p.rows[at]](e, at);
}
