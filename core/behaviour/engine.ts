import { saysTheSame } from "../rules";
import { gateLead } from "./engine/belt";
import { isEndless } from "./engine/dispatch";
import type { Engine } from "./engine/Engine";
import { labelTaken, seenBy, sees, sightsTaken } from "./engine/eyes";
import { endMoment, holdDown, startMoment } from "./engine/moment";
import { type EngineInput, type EngineState, NONE, type Note } from "./engineState";
import type { Command } from "./outputs";
import type { Program } from "./program";
import { kindOf, type Step } from "./steps";
import { type Begun, hasGone, type WheelTravel } from "./steps/StepKind";

/**
 * One moment, `dt` ms after the last: classify, steady, events, timers, responses, steps, in this order. It changes the
 * state, and goes by nothing but its arguments: no clock, no randomness; the same code answers in a run, on a tape and on
 * a live link. What is read may be used again for the next moment.
 */
export function advance(
  state: EngineState,
  input: EngineInput,
  dt: number,
): { commands: readonly Command[]; notes: readonly Note[] } {
  const { program, engine } = state;
  const t = engine.now + dt;
  state.commands = NONE;
  state.notes = NONE;
  if (engine.hasFinished) {
    engine.now = t;
    return state;
  }
  const { readings, blobs, pressed } = input;
  const { left, right } = input.travel;
  // Most moments bring nothing in and no time has come: nothing can happen then.
  const quiet = blobs === undefined && pressed === undefined && isQuiet(state, t, input.travel);
  if (quiet && readings.length === 0) return passes(state, t, left, right);
  const { read, taken } = state;
  for (let i = 0; i < readings.length; i++) {
    const eye = program.eyes[readings[i].eye];
    read[i] = eye.read(readings[i].raw);
    taken[i] = eye.labelOf(read[i]);
  }
  // Most readings say what the ones before them said, and little goes by more than that.
  const goesOn = quiet && !goesByReadings(state);
  if (goesOn && sayTheSame(state, readings)) {
    for (let i = 0; i < readings.length; i++) {
      const { eye } = readings[i];
      engine.features[eye] = read[i];
      if (engine.labelOf[eye] !== 0) engine.knownAt[eye] = t;
    }
    return passes(state, t, left, right);
  }
  const now = pressed ?? NONE;
  if (now !== state.held) holdButtons(state, now);
  startMoment(engine, t, left, right);
  let seesAnew = false;
  for (let i = 0; i < readings.length; i++) {
    const { eye } = readings[i];
    engine.features[eye] = read[i];
    const before = engine.steadying.seen[eye];
    labelTaken(engine, eye, taken[i]);
    if (engine.steadying.seen[eye] !== before) seesAnew = true;
  }
  if (goesOn && !seesAnew) return state;
  if (blobs !== undefined)
    for (const { eye, blobs: found } of blobs) {
      state.putBlobs(eye, found);
      sightsTaken(engine, eye);
    }
  endMoment(engine);
  // What happened may let something else happen in the next moment, and so may letting go of a button.
  const restless = now.length > 0 || state.notes.length > 0;
  state.quietUntil = restless ? Number.NEGATIVE_INFINITY : quietUntil(program, engine);
  state.awaited = state.quietUntil === Number.NEGATIVE_INFINITY ? null : awaited(program, engine);
  if (program.belt !== undefined) state.gatesDue = nextGateAt(engine);
  return state;
}

/** Time goes on, and the wheels; nothing else happens. */
function passes(state: EngineState, t: number, left: number, right: number): EngineState {
  const { engine } = state;
  engine.now = t;
  engine.wayLeft = left;
  engine.wayRight = right;
  engine.arrivals = 0;
  engine.departures = 0;
  return state;
}

function holdButtons(state: EngineState, pressed: readonly string[]): void {
  const { engine, program } = state;
  state.held = [...pressed];
  program.naming.buttons.forEach((button, i) => {
    if (i < engine.pressed.length) holdDown(engine, i, pressed.includes(button) ? 1 : 0);
  });
}

/** Whether nothing can happen at a time but by what comes in: no time has come, and the wheels are on their way. */
export const isQuiet = ({ quietUntil, awaited, gatesDue }: EngineState, t: number, travel: WheelTravel): boolean =>
  t < quietUntil && travel.left < gatesDue && (awaited === null || !hasGone(awaited.goal, awaited.from, travel));

/** The step of a row; what runs beside the others stands in a row of its own kind. */
const stepIn = ({ naming }: Program, at: number): Step | undefined => naming.stepAt.get(at);

const begunOf = ({ begunAt, begunLeft, begunRight, begunMs }: Engine): Begun => ({
  t: begunAt,
  travel: { left: begunLeft, right: begunRight },
  ms: begunMs,
});

/** The way at whose end the step that runs ends. */
function awaited(program: Program, engine: Engine): EngineState["awaited"] {
  if (!engine.isActive || !engine.hasBegun) return null;
  const step = stepIn(program, engine.frameAt[engine.depth - 1]);
  const goal = step && kindOf(step).goal?.(step, program);
  return goal === undefined ? null : { goal, from: begunOf(engine).travel };
}

/** Until when nothing but what comes in can change anything: no step ends by time, and no timer is due. */
function quietUntil(program: Program, engine: Engine): number {
  let until = Number.POSITIVE_INFINITY;
  if (engine.isActive) {
    const step = stepIn(program, engine.frameAt[engine.depth - 1]);
    if (!engine.hasBegun || step === undefined) return -Infinity;
    until = kindOf(step).endsBy?.(step, begunOf(engine)) ?? -Infinity;
    if (until === -Infinity) return until;
  }
  for (let i = 0; i < engine.besides; i++) {
    if (!isEndless(engine, engine.besideAt[i])) return -Infinity;
  }
  if (program.goesByTravel) return -Infinity;
  const { restless, whileSeen, timers } = program.modes[engine.modeNow];
  if (restless) return -Infinity;
  for (const { eye, labels } of whileSeen) if (labels.some((label) => sees(engine, eye, label))) return -Infinity;
  for (let i = 0; i < timers.length; i++) {
    const { eye, ms, silence, again } = timers[i];
    if (silence && seenBy(engine, eye) !== 0) continue;
    const since = (silence ? Math.max(engine.knownAt[eye], engine.modeSince) : engine.modeSince) + ms;
    const due = again < 0 ? since : Math.max(since, engine.armReady[again]);
    if (due > engine.now) until = Math.min(until, due);
    // Due, and it starts again as soon as what runs has ended; while it runs itself, that is an end that is looked at.
    else if (again >= 0 && !(engine.isActive && engine.response === again)) return -Infinity;
  }
  return until;
}

/** Tells whether readings say only what those before them said. */
function sayTheSame({ engine, taken }: EngineState, readings: EngineInput["readings"]): boolean {
  for (let i = 0; i < readings.length; i++) if (!saysTheSame(engine.steadying, readings[i].eye, taken[i])) return false;
  return true;
}

/** Whether what is read may make something happen though the same is seen as before. */
function goesByReadings({ program, engine }: EngineState): boolean {
  if (engine.besides > 0 || program.modes[engine.modeNow].goesByReadings) return true;
  const step = engine.isActive ? stepIn(program, engine.frameAt[engine.depth - 1]) : undefined;
  if (step === undefined) return false;
  const at = engine.frameAt[engine.depth - 1];
  return engine.kinds.steps[engine.p.rows[at]].during !== null || kindOf(step).goesByReadings?.(step) === true;
}

/** Gives how far the belt must have gone, in mm, for the next gate to move for a piece that was sent. */
function nextGateAt(engine: Engine): number {
  let due = Number.POSITIVE_INFINITY;
  for (let i = 0; i < engine.sent; i++)
    due = Math.min(
      due,
      engine.sentOpened[i] === 1 ? engine.sentCloseAt[i] : engine.sentOpenAt[i] - gateLead(engine, engine.sentGate[i]),
    );
  return due;
}
