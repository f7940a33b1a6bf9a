import type { int, num } from "../../arithmetic";

/*
 * The time of a robot's lines: those of one time are one moment, and the time between two moments is lived through with
 * what was known before the later one.
 */

/** Time is carried on in steps as short as a run's, so that the same lines give what a run gives. */
export const STEP_MS = 5;
/** A robot that says nothing for longer was away: its behaviour does not live through that time. */
export const MOST_GAP_MS = 10000;

/** A robot's lines and how far they have come. */
export class LineTime {
  /** The robot's clock at the engine's beginning; NaN before the first line. */
  clockZero: num = Number.NaN;
  /** The engine's time so far, in ms; −1 before its first moment. */
  livedMs: num = -1;
  /** The time of the moment whose lines come; NaN between moments. */
  openMs: num = Number.NaN;
  /** Lines may come so much late, in ms. */
  slackMs: num = 50;
  /** The number of times that a clock went back or leapt on. */
  jumps: int = 0;
}

/** Gives how far time has come, in the engine's ms: what was lived through, or the moment that is open. */
export function reachedBy(l: LineTime): num {
  return Math.max(l.livedMs, Number.isNaN(l.openMs) ? 0 : l.openMs, 0);
}

/** Gives the time of a line in the engine's ms, by the robot's clock. One that goes back, or that leaps on, is taken anew from there. */
export function timeOfLine(l: LineTime, clock: num): num {
  const reached = reachedBy(l);
  if (Number.isNaN(l.clockZero)) {
    l.clockZero = clock;
    return 0;
  }
  const t = clock - l.clockZero;
  if (t >= reached && t - reached <= MOST_GAP_MS) return t;
  if (t < reached && reached - t <= l.slackMs) return reached;
  l.clockZero = clock - reached;
  l.jumps += 1;
  return reached;
}

/** A line of a time belongs to the moment that is open now. */
export function openMoment(l: LineTime, t: num): void {
  l.openMs = t;
}

/** Gives the time of the next moment in which nothing comes, before one at `t`, or up to it; NaN where none is left. */
export function idleBefore(l: LineTime, t: num, isIncluded: boolean): num {
  if (l.livedMs < 0) return t > 0 ? 0 : Number.NaN;
  const idle = l.livedMs + STEP_MS;
  return idle < t || (isIncluded && idle === t) ? idle : Number.NaN;
}

/** A moment was lived through, and none is open. */
export function lived(l: LineTime, t: num): void {
  l.livedMs = Math.max(t, l.livedMs);
  l.openMs = Number.NaN;
}
