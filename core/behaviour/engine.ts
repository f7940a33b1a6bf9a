import { saysTheSame } from "../rules";
import {
  type Command,
  type EngineInput,
  type EngineState,
  type Eye,
  type Note,
  seenLabel,
  seesLabel,
} from "./engineState";
import { nextGateAt } from "./gates";
import { type Draft, MomentOf, NONE } from "./moment";
import type { Program } from "./program";
import { kindOf } from "./steps";
import { hasGone, type WheelTravel } from "./steps/StepKind";
import type { TriggerScene } from "./triggers";

/**
 * One moment, `dt` ms after the last: classify, steady, events, timers, responses, steps, in this order. Pure: no
 * clock, no randomness, no input but its arguments; the same code answers in a run, on a tape and on a live link.
 */
export function advance(
  program: Program,
  state: EngineState,
  input: EngineInput,
  dt: number,
): { state: EngineState; commands: Command[]; notes: Note[] } {
  const draft = later(state, dt);
  if (state.finished) return { state: draft, commands: NONE, notes: NONE };
  if (program.goesByTravel) draft.turned = turnedBy(program, state.turned, input.travel, draft.t);
  // Most moments bring nothing in and no time has come: nothing can happen then.
  const { readings, blobs, pressed } = input;
  const quiet = blobs === undefined && pressed === undefined && isQuiet(state, draft.t, input.travel);
  if (quiet && readings.length === 0) return { state: draft, commands: NONE, notes: NONE };
  // Most readings say what the ones before them said, and little goes by more than that.
  const goesOn = quiet && !goesByReadings(program, state);
  if (goesOn) {
    const eyes = eyesUnmoved(program, state.eyes, readings, draft.t);
    if (eyes !== null) {
      draft.eyes = eyes;
      return { state: draft, commands: NONE, notes: NONE };
    }
  }
  const moment = new MomentOf(program, draft, input);
  if (!state.started) {
    moment.enter(program.start);
    moment.carryOn();
  }
  for (const { eye, raw } of readings) moment.takeReading(eye, raw);
  if (goesOn && !moment.seenAnew) return { state: draft, commands: NONE, notes: NONE };
  if (blobs !== undefined) for (const frame of blobs) moment.takeBlobs(frame.eye, frame.blobs);
  moment.respond();
  moment.carryOn();
  moment.carryOnBeside();
  moment.moveGates();
  // What happened may let something else happen in the next moment, and so may letting go of a button.
  const held = pressed !== undefined && pressed.length > 0;
  draft.quietUntil = held || moment.notes.length > 0 ? -Infinity : quietUntil(program, draft);
  draft.awaited = draft.quietUntil === -Infinity ? null : awaited(program, draft);
  if (program.belt !== undefined) draft.gatesDue = nextGateAt(program, draft);
  return { state: moment.draft, commands: moment.commands, notes: moment.notes };
}

/** Whether nothing can happen at a time but by what comes in: no time has come, and the wheels are on their way. */
export const isQuiet = ({ quietUntil, awaited, gatesDue }: EngineState, t: number, travel: WheelTravel): boolean =>
  t < quietUntil && travel.left < gatesDue && (awaited === null || !hasGone(awaited.goal, awaited.from, travel));

/** The way at whose end the step that runs ends. */
function awaited(program: Program, { activity }: EngineState): EngineState["awaited"] {
  if (activity === null || activity.begun === null) return null;
  const step = activity.frame.steps[activity.frame.index];
  const goal = kindOf(step).goal?.(step, program);
  return goal === undefined ? null : { goal, from: activity.begun.travel };
}

/** Until when nothing but what comes in can change anything: no step ends by time, and no timer is due. */
function quietUntil(program: Program, { t, mode, modeSince, eyes, activity, besides, arms }: EngineState): number {
  let until = Number.POSITIVE_INFINITY;
  if (activity !== null) {
    const { frame, begun } = activity;
    const step = frame.steps[frame.index];
    if (begun === null || step === undefined) return -Infinity;
    until = kindOf(step).endsBy?.(step, begun) ?? -Infinity;
    if (until === -Infinity) return until;
  }
  for (const { step, begun } of besides) {
    const kind = kindOf(step);
    if (kind.endless?.(step)) continue;
    if (kind.goal?.(step, program) !== undefined) return -Infinity;
    until = Math.min(until, kind.endsBy?.(step, begun) ?? -Infinity);
  }
  if (program.goesByTravel) return -Infinity;
  const { restless, whileSeen, timers } = program.modes.get(mode) ?? NO_TIMERS;
  if (restless) return -Infinity;
  for (const { eye, labels } of whileSeen) if (labels.some((label) => seesLabel(eyes[eye], label))) return -Infinity;
  for (let i = 0; i < timers.length; i++) {
    const { eye, ms, silence, again } = timers[i];
    if (silence && seenLabel(eyes[eye]) !== 0) continue;
    const since = (silence ? Math.max(eyes[eye].knownAt, modeSince) : modeSince) + ms;
    const due = again === null ? since : Math.max(since, arms[again]?.readyAt ?? since);
    if (due > t) until = Math.min(until, due);
    // Due, and it starts again as soon as what runs has ended; while it runs itself, that is an end that is looked at.
    else if (again !== null && activity?.response?.id !== again) return -Infinity;
  }
  return until;
}
const NO_TIMERS = { restless: false, whileSeen: [], timers: [] };

/** The eyes after readings that say what those before them said; null where one says something else. */
function eyesUnmoved(
  { eyes: made }: Program,
  before: readonly Eye[],
  readings: EngineInput["readings"],
  t: number,
): Eye[] | null {
  const eyes = before.slice();
  for (let i = 0; i < readings.length; i++) {
    const { eye, raw } = readings[i];
    const { ruleSet, read, labelOf } = made[eye];
    const features = read(raw);
    const label = labelOf(features);
    const { steadied, knownAt, departed, blobs, sights, ways, visitWay, lastWay } = eyes[eye];
    if (!saysTheSame(steadied, label, ruleSet.steady)) return null;
    const known = label === 0 ? knownAt : t;
    eyes[eye] = { features, label, steadied, knownAt: known, departed, blobs, sights, ways, visitWay, lastWay };
  }
  return eyes;
}

/** Whether what is read may make something happen though the same is seen as before. */
function goesByReadings(program: Program, { mode, activity, besides }: EngineState): boolean {
  if (besides.length > 0 || program.modes.get(mode)?.goesByReadings) return true;
  const step = activity?.frame.steps[activity.frame.index];
  if (step === undefined) return false;
  const kind = kindOf(step);
  return kind.during !== undefined || kind.goesByReadings?.(step) === true;
}

/** Encoders count whole degrees of a wheel. */
const ENCODER_STEPS = 360;

/** What the encoders count now, and since when. */
function turnedBy(
  { wheelMm }: Program,
  before: EngineState["turned"],
  travel: WheelTravel,
  t: number,
): EngineState["turned"] {
  const steps = (mm: number) => Math.floor((mm / (Math.PI * wheelMm)) * ENCODER_STEPS);
  const [left, right] = [steps(travel.left), steps(travel.right)];
  return left === before.left && right === before.right ? before : { left, right, at: t };
}

/** A copy `dt` ms later. Field by field: engines copy a literal several times faster than a spread, and this is the hot path. */
function later(state: EngineState, dt: number): Draft {
  const { t, started, finished, mode, modeSince, eyes, counters, lists, servos, wheels, activity, besides, arms } =
    state;
  return {
    t: t + dt,
    started,
    finished,
    mode,
    modeSince,
    eyes,
    counters,
    lists,
    servos,
    wheels,
    activity,
    besides,
    arms,
    quietUntil: state.quietUntil,
    turned: state.turned,
    awaited: state.awaited,
    gates: state.gates,
    sent: state.sent,
    gatesDue: state.gatesDue,
  };
}

/** A state to be asked, as triggers and conditions ask: what is seen, counted, listed; events of the moment are past. */
export function lookAt(program: Program, state: EngineState, pressed: readonly string[]): TriggerScene {
  return new MomentOf(program, later(state, 0), { readings: NONE, travel: NOWHERE, pressed });
}
const NOWHERE: WheelTravel = { left: 0, right: 0 };
