import { type int, type num, whole } from "../../arithmetic";
import { moveGates } from "./belt";
import { carryOn, carryOnBesides } from "./carryOn";
import { type Engine, TROUBLE_PARTS } from "./Engine";
import { countTurns } from "./eyes";
import { enter, respond } from "./responses";
import { ARGS, DONE, MODE, ONLY_IF, ROUTINE, type Rows, WHEN } from "./rows";
import { endBehaviour, trouble } from "./saying";

/**
 * Finds where modes, responses and routines begin; tells whether there is room for all of them: in a written list there
 * may be more than it was written with.
 */
export function findParts(p: Rows): boolean {
  let at = 0;
  let mode = 0;
  let response = 0;
  let routine = 0;
  while (p.rows[at] !== DONE) {
    const kind = p.rows[at];
    const next = at + whole(p.rows[at + 1]);
    if (kind === MODE) {
      if (mode === p.modes) return false;
      p.modeAt[mode] = next;
      p.firstResponse[mode] = response;
      mode += 1;
    }
    if (kind === ROUTINE) {
      if (routine === p.routines) return false;
      p.routineAt[routine] = next;
      routine += 1;
    }
    if (kind === WHEN) {
      if (response === p.responses) return false;
      p.responseAt[response] = at;
      p.triggerAt[response] = next;
      p.triggerKind[response] = whole(p.rows[next]);
      // Behind its trigger stands its guard, if it has one.
      let steps = next + whole(p.rows[next + 1]);
      p.guardAt[response] = 0;
      if (p.rows[steps] === ONLY_IF) {
        p.guardAt[response] = steps + ARGS;
        steps += whole(p.rows[steps + 1]);
      }
      p.stepsAt[response] = steps;
      response += 1;
    }
    at = kind === WHEN ? p.stepsAt[response - 1] : next;
  }
  p.firstResponse[mode] = response;
  return true;
}

/** Begins a moment: the time in ms, and how far each wheel has gone, in mm. What comes in follows, then `endMoment`. */
export function startMoment(e: Engine, t: num, left: num, right: num): void {
  e.now = t;
  e.isAsleep = e.hasFinished;
  if (e.isAsleep) return;
  e.wayLeft = left;
  e.wayRight = right;
  e.arrivals = 0;
  e.departures = 0;
  e.brings = false;
  if (e.p.machine.countsTurns) countTurns(e);
  if (e.hasStarted) return;
  if (!findParts(e.p)) {
    trouble(e, TROUBLE_PARTS, 0, 0, 0);
    endBehaviour(e);
    e.isAsleep = true;
    return;
  }
  enter(e, e.p.machine.start);
  carryOn(e);
}

/** Ends a moment: what was read is answered, and steps go on. */
export function endMoment(e: Engine): void {
  if (e.isAsleep) return;
  respond(e);
  carryOn(e);
  if (e.p.machine.hasBesides && e.besides > 0) carryOnBesides(e);
  if (e.p.machine.hasBelt && e.sent > 0) moveGates(e);
}

/** Holds a button down, or lets it go: it counts from the next moment on. */
export function holdDown(e: Engine, button: int, isDown: int): void {
  e.pressed[button] = isDown;
}
