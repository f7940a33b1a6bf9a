import type { int } from "../../arithmetic";
import { holdsAt } from "./ask";
import { judge } from "./dispatch";
import { type Engine, NOTE_DROPPED, NOTE_FIRES, NOTE_MODE, TROUBLE_NESTED } from "./Engine";
import { ARGS } from "./rows";
import { endBehaviour, trouble } from "./saying";

/** The first response of the mode whose trigger holds and that is armed starts, if it may. */
export function respond(e: Engine): void {
  let isTaken = false;
  const isQuiet = e.arrivals === 0 && e.departures === 0;
  const last = e.p.firstResponse[e.modeNow + 1];
  for (let r = e.p.firstResponse[e.modeNow]; r < last; r++) {
    if (!isQuiet || e.p.triggers.byEvents[e.p.triggerKind[r]] === 0) isTaken = consider(e, r, isTaken);
  }
}

/** Starts a response if it is its turn; gives whether one has been started in this moment. */
function consider(e: Engine, r: int, isTaken: boolean): boolean {
  e.byLabel = 0;
  const episode = judge(e, e.p.triggerAt[r]);
  const holds = !Number.isNaN(episode);
  const isEdge = e.p.triggers.onEdge[e.p.triggerKind[r]] === 1;
  if (!holds && !isEdge) {
    // What held and holds no longer is another occasion when it holds again.
    if (e.p.triggers.renews[e.p.triggerKind[r]] === 1 && e.armSpent[r] === 1) e.armSpent[r] = Number.NaN;
    return isTaken;
  }
  if (isEdge) {
    const isFresh = e.armKnown[r] === 0;
    const held = e.armHeld[r] === 1;
    e.armKnown[r] = 1;
    e.armHeld[r] = holds ? 1 : 0;
    if (!holds || isFresh || held) return isTaken;
  }
  const at = e.p.responseAt[r] + ARGS;
  const isOnce = e.p.rows[at] === 1;
  if (isOnce && !isEdge && e.armSpent[r] === episode) return isTaken;
  if (!isOnce && (e.now < e.armReady[r] || (e.isActive && e.response === r))) return isTaken;
  if (e.p.guardAt[r] !== 0 && !holdsAt(e, e.p.guardAt[r])) return isTaken;
  if (isTaken || (e.isActive && e.p.rows[at + 1] === 1)) {
    // A trigger that holds while another runs is let go; one that fires while present, and a time that has come, will still hold later.
    if (isOnce && e.p.triggers.staysDue[e.p.triggerKind[r]] === 0) {
      e.armSpent[r] = episode;
      e.robot.note(NOTE_DROPPED, r, 0, 0, 0);
    }
    return isTaken;
  }
  e.armSpent[r] = episode;
  e.armReady[r] = e.now + e.p.rows[at + 2];
  e.robot.note(NOTE_FIRES, r, e.byEye, e.byLabel, 0);
  startSteps(e, r, e.p.stepsAt[r], e.byLabel);
  if (e.p.machine.hasBelt) findPiece(e);
  return true;
}

/** Steps begin, of a response or with −1 of the mode, in the place of those that run. */
function startSteps(e: Engine, r: int, at: int, label: int): void {
  e.isActive = true;
  e.response = r;
  e.hasBegun = false;
  e.depth = 0;
  putFrame(e, at, 0, label);
}

/** The piece that a response fired for: of the visit that its sensor has now, or of the one that just ended. A camera does not say where along the belt a piece lies. */
function findPiece(e: Engine): void {
  const eye = e.byEye;
  if (e.byLabel === 0 || e.p.machine.sightsAt[eye] >= 0) return;
  let came = false;
  for (let i = 0; i < e.arrivals; i++) if (e.arrivalEye[i] === eye) came = true;
  e.frameEye[0] = eye;
  e.frameWay[0] = came && e.steadying.seen[eye] !== e.byLabel ? e.lastWay[eye] : e.visitWay[eye];
  e.frameFired[0] = e.now;
}

/** Puts steps before those that follow. */
export function putFrame(e: Engine, at: int, again: int, label: int): void {
  const top = e.depth;
  if (top >= e.p.machine.mostNested) {
    trouble(e, TROUBLE_NESTED, 0, 0, 0);
    endBehaviour(e);
    return;
  }
  e.frameAt[top] = at;
  e.frameFirst[top] = at;
  e.frameAgain[top] = again;
  e.frameTarget[top] = label;
  e.frameList[top] = -1;
  e.frameEye[top] = -1;
  e.depth += 1;
}

/** Begins a mode. */
export function enter(e: Engine, next: int): void {
  e.hasStarted = true;
  e.modeNow = next;
  e.modeSince = e.now;
  for (let r = 0; r < e.p.responses; r++) {
    e.armKnown[r] = 0;
    e.armHeld[r] = 0;
    e.armSpent[r] = Number.NaN;
    e.armReady[r] = -Infinity;
  }
  e.robot.note(NOTE_MODE, next, 0, 0, 0);
  startSteps(e, -1, e.p.modeAt[next], 0);
}
