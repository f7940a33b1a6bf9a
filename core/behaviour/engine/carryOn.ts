import { type int, whole } from "../../arithmetic";
import { beginStep, duringStep, endStep, hasEnded, isEndless, lasts } from "./dispatch";
import { type Engine, MOST_STEPS, NOTE_ENDED, NOTE_STEP, TROUBLE_BESIDES, TROUBLE_CIRCLE } from "./Engine";
import { pushSteps, replayOn } from "./pushed";
import { enter } from "./responses";
import { ARGS, END, FINISHES } from "./rows";
import { endBehaviour, trouble } from "./saying";

/** Carries the steps on as far as this moment goes. */
export function carryOn(e: Engine): void {
  let steps = 0;
  while (e.isActive && !e.hasFinished) {
    if (steps > MOST_STEPS) {
      trouble(e, TROUBLE_CIRCLE, 0, 0, 0);
      endBehaviour(e);
      return;
    }
    steps += 1;
    const at = e.frameAt[e.depth - 1];
    if (e.p.rows[at] === END) nextFrame(e);
    else if (!carryOnStep(e, at)) return;
  }
}

/** Goes on once the steps in a row are through: again, to the next of a replay, or out. */
function nextFrame(e: Engine): void {
  const top = e.depth - 1;
  if (e.frameAgain[top] > 0) {
    e.frameAgain[top] -= 1;
    e.frameAt[top] = e.frameFirst[top];
    return;
  }
  if (e.p.machine.hasReplays && e.frameList[top] >= 0 && replayOn(e, top)) return;
  e.depth -= 1;
  if (e.depth > 0) return;
  const ended = e.response;
  e.robot.note(NOTE_ENDED, ended, 0, 0, 0);
  e.isActive = false;
  if (ended < 0) return;
  const then = whole(e.p.rows[e.p.responseAt[ended] + ARGS + 3]);
  if (then === FINISHES) endBehaviour(e);
  else if (then >= 0) enter(e, then);
}

/** Carries one step on; gives whether the moment goes on behind it. */
function carryOnStep(e: Engine, at: int): boolean {
  const isNew = !e.hasBegun;
  if (isNew) {
    e.begunAt = e.now;
    e.begunLeft = e.wayLeft;
    e.begunRight = e.wayRight;
    e.begunMs = 0;
  }
  e.sinceAt = e.begunAt;
  e.sinceLeft = e.begunLeft;
  e.sinceRight = e.begunRight;
  e.sinceMs = e.begunMs;
  if (isNew) {
    e.robot.note(NOTE_STEP, at, 0, 0, 0);
    beginStep(e, at);
    e.begunMs = e.sinceMs;
    if (e.hasFinished) return false;
    if (e.nextMode >= 0) {
      const next = e.nextMode;
      e.nextMode = -1;
      enter(e, next);
      return true;
    }
  }
  if (isNew || e.brings) duringStep(e, at);
  if (!hasEnded(e, at)) {
    e.hasBegun = true;
    return false;
  }
  endStep(e, at);
  e.frameAt[e.depth - 1] = at + whole(e.p.rows[at + 1]);
  e.hasBegun = false;
  if (e.p.machine.hasPushes) pushSteps(e);
  return true;
}

/** Begins a step and lets it run beside those that follow. */
export function beside(e: Engine, at: int): void {
  const { sinceAt: since, sinceLeft: left, sinceRight: right, sinceMs: ms, actor: before } = e;
  e.sinceAt = e.now;
  e.sinceLeft = e.wayLeft;
  e.sinceRight = e.wayRight;
  e.sinceMs = 0;
  e.actor = -1;
  // What ends at once takes no place.
  if (lasts(e, at)) {
    clearBesides(e);
    if (e.besides < e.p.machine.besides) {
      e.actor = e.besides;
      e.besideAt[e.actor] = at;
      e.besideOutput[e.actor] = -1;
      e.besides += 1;
    } else trouble(e, TROUBLE_BESIDES, 0, 0, 0);
  }
  beginStep(e, at);
  if (e.actor >= 0) {
    e.besideSince[e.actor] = e.sinceAt;
    e.besideLeft[e.actor] = e.sinceLeft;
    e.besideRight[e.actor] = e.sinceRight;
    e.besideMs[e.actor] = e.sinceMs;
  }
  e.sinceAt = since;
  e.sinceLeft = left;
  e.sinceRight = right;
  e.sinceMs = ms;
  e.actor = before;
}

/** Closes the gaps of steps that have ended. */
function clearBesides(e: Engine): void {
  let kept = 0;
  for (let i = 0; i < e.besides; i++) {
    if (e.besideAt[i] < 0) continue;
    e.besideAt[kept] = e.besideAt[i];
    e.besideOutput[kept] = e.besideOutput[i];
    e.besideSince[kept] = e.besideSince[i];
    e.besideLeft[kept] = e.besideLeft[i];
    e.besideRight[kept] = e.besideRight[i];
    e.besideMs[kept] = e.besideMs[i];
    kept += 1;
  }
  e.besides = kept;
}

/** Carries on the steps that run beside the others. */
export function carryOnBesides(e: Engine): void {
  for (let i = 0; i < e.besides; i++) {
    const at = e.besideAt[i];
    // One before it may have taken its output.
    if (at < 0) continue;
    // What steers has nothing new to go by until the next reading.
    if (isEndless(e, at) && !e.brings && e.besideSince[i] < e.now) continue;
    e.actor = i;
    e.sinceAt = e.besideSince[i];
    e.sinceLeft = e.besideLeft[i];
    e.sinceRight = e.besideRight[i];
    e.sinceMs = e.besideMs[i];
    duringStep(e, at);
    if (!isEndless(e, at) && hasEnded(e, at)) {
      endStep(e, at);
      e.besideAt[i] = -1;
    }
  }
  e.actor = -1;
  clearBesides(e);
}
