import { type int, whole } from "../../arithmetic";
import { type Engine, MOST_JOTTED, NOTE_LIST, TROUBLE_FULL, TROUBLE_NO_ANSWER, TROUBLE_NOTHING_FIRED } from "./Engine";
import { putFrame } from "./responses";
import { ARGS } from "./rows";
import { trouble } from "./saying";

const PUSHES_ROUTINE = 1;
const PUSHES_REPLAY = 2;

/** Puts the steps of a routine, or of a replay, before those that follow, if the step that just ran asked for it. */
export function pushSteps(e: Engine): void {
  const what = e.pushes;
  if (what === 0) return;
  e.pushes = 0;
  if (what === PUSHES_ROUTINE) putRoutine(e);
  else if (e.p.machine.hasReplays) putReplay(e);
}

/** Puts a routine's steps: they are about the piece and the target of the step that did it. */
function putRoutine(e: Engine): void {
  const top = e.depth;
  putFrame(e, e.pushedAt, e.pushedAgain, e.frameTarget[top - 1]);
  if (e.depth === top) return;
  e.frameEye[top] = e.frameEye[top - 1];
  e.frameWay[top] = e.frameWay[top - 1];
  e.frameFired[top] = e.frameFired[top - 1];
}

/** Puts a replay, which goes from one jotted target to the next that is answered. */
function putReplay(e: Engine): void {
  const top = e.depth;
  putFrame(e, 0, 0, 0);
  if (e.depth === top) return;
  e.frameList[top] = e.pushedList;
  e.frameMode[top] = e.pushedMode;
  e.frameNext[top] = 0;
  e.frameEnd[top] = e.listLength[e.pushedList];
  if (!replayOn(e, top)) e.depth -= 1;
}

/** Has the steps of a routine come next, `times` times. */
export function pushRoutine(e: Engine, routine: int, times: int): void {
  e.pushes = PUSHES_ROUTINE;
  e.pushedAt = e.p.routineAt[routine];
  e.pushedAgain = times - 1;
}

/** Has the steps of the arrival response of each jotted target, in order, come next. */
export function pushReplay(e: Engine, which: int, mode: int): void {
  e.pushes = PUSHES_REPLAY;
  e.pushedList = which;
  e.pushedMode = mode;
  for (let i = 0; i < e.listLength[which]; i++) {
    const label = e.lists[which * MOST_JOTTED + i];
    if (answerTo(e, mode, label) < 0) trouble(e, TROUBLE_NO_ANSWER, mode, which, label);
  }
}

/** Goes on to the next jotted target that is answered; gives whether there is one. */
export function replayOn(e: Engine, top: int): boolean {
  while (e.frameNext[top] < e.frameEnd[top]) {
    const label = e.lists[e.frameList[top] * MOST_JOTTED + e.frameNext[top]];
    e.frameNext[top] += 1;
    const answer = answerTo(e, e.frameMode[top], label);
    if (answer < 0) continue;
    e.frameAt[top] = e.p.stepsAt[answer];
    e.frameFirst[top] = e.p.stepsAt[answer];
    e.frameTarget[top] = label;
    return true;
  }
  return false;
}

/** The first response of a mode to the arrival of a target; −1 where there is none. What is answered by events is answered here. */
function answerTo(e: Engine, mode: int, label: int): int {
  const last = e.p.firstResponse[mode + 1];
  for (let r = e.p.firstResponse[mode]; r < last; r++) {
    if (e.p.triggers.answersArrivals[e.p.triggerKind[r]] === 0) continue;
    const when = e.p.triggerAt[r];
    const end = when + whole(e.p.rows[when + 1]);
    // Behind the sensor and their number stand its targets.
    for (let at = when + ARGS + 2; at < end; at++) if (e.p.rows[at] === label) return r;
  }
  return -1;
}

/** Writes the target that fired onto a list. */
export function writeDown(e: Engine, which: int): void {
  const label = e.frameTarget[e.depth - 1];
  const length = e.listLength[which];
  if (label === 0) trouble(e, TROUBLE_NOTHING_FIRED, which, 0, 0);
  else if (length >= MOST_JOTTED) trouble(e, TROUBLE_FULL, which, 0, 0);
  else {
    e.lists[which * MOST_JOTTED + length] = label;
    e.listLength[which] = length + 1;
    e.robot.note(NOTE_LIST, which, label, length + 1, 0);
  }
}
