import type { int, num } from "../../arithmetic";
import {
  type Engine,
  GATE_RESERVE,
  MOST_SENT,
  NOTE_GATE,
  TROUBLE_NO_GATE,
  TROUBLE_NO_PIECE,
  TROUBLE_SENT,
} from "./Engine";
import { trouble } from "./saying";

/** Opens or closes a gate, for the piece that fired where one did. */
export function setGate(e: Engine, gate: int, opens: int): void {
  const top = e.depth - 1;
  const fired = top >= 0 && e.frameEye[top] >= 0 ? e.frameFired[top] : Number.NaN;
  moveGate(e, gate, opens, e.isActive ? e.response : -1, fired);
}

/** Tells a gate to move, if it is not there. */
function moveGate(e: Engine, gate: int, opens: int, by: int, fired: num): void {
  if (e.gateOpen[gate] === opens) return;
  e.gateOpen[gate] = opens;
  e.robot.gate(gate, opens);
  e.robot.note(NOTE_GATE, gate, opens, by, fired);
}

/** Lets the piece that fired go into a crate: its gate opens and closes by the belt's own way. */
export function sendPiece(e: Engine, crate: int): void {
  const m = e.p.machine;
  const top = e.depth - 1;
  const eye = e.frameEye[top];
  if (eye < 0) {
    trouble(e, TROUBLE_NO_PIECE, crate, 0, 0);
    return;
  }
  let gate = -1;
  for (let i = 0; i < m.gates; i++) if (gate < 0 && m.gateCrate[i] === crate && m.gateAt[i] > m.looksAt[eye]) gate = i;
  if (gate < 0) {
    trouble(e, TROUBLE_NO_GATE, crate, 0, 0);
    return;
  }
  if (e.sent >= MOST_SENT) {
    trouble(e, TROUBLE_SENT, 0, 0, 0);
    return;
  }
  // With its first reading the piece's edge lay within the spot, or has gone on for at most a period since.
  const pace = e.wheelsTold ? Math.abs(e.wheelsLeft) : 0;
  const slack = m.spotMm[eye] / 2 + (pace * m.topSpeed * m.periodMs[eye]) / 1000;
  e.sentGate[e.sent] = gate;
  e.sentOpenAt[e.sent] = e.frameWay[top] + m.gateAt[gate] - m.gateReach[gate] / 2 - m.looksAt[eye] - slack;
  e.sentCloseAt[e.sent] = e.frameWay[top] + m.gateAt[gate] + m.gateReach[gate] / 2 - m.looksAt[eye];
  e.sentOpened[e.sent] = 0;
  e.sentBy[e.sent] = e.response;
  e.sentFired[e.sent] = e.frameFired[top];
  e.sent += 1;
}

/** Gives how far the belt goes at most while a gate opens or closes, in mm: by its told speed, with the reserve. */
export function gateLead(e: Engine, gate: int): num {
  const pace = e.wheelsTold ? Math.max(0, e.wheelsLeft) : 0;
  return (pace * e.p.machine.topSpeed * e.p.machine.gateTravelMs[gate] * GATE_RESERVE) / 1000;
}

/** Tells whether a piece has gone by its gate. */
function hasPassed(e: Engine, i: int): boolean {
  return e.sentOpened[i] === 1 && e.wayLeft >= e.sentCloseAt[i];
}

/** Opens and closes gates for what was sent, by how far the belt has gone. */
export function moveGates(e: Engine): void {
  for (let i = 0; i < e.sent; i++)
    if (e.sentOpened[i] === 0 && e.wayLeft >= e.sentOpenAt[i] - gateLead(e, e.sentGate[i])) {
      e.sentOpened[i] = 1;
      moveGate(e, e.sentGate[i], 1, e.sentBy[i], e.sentFired[i]);
    }
  for (let i = 0; i < e.sent; i++)
    if (hasPassed(e, i) && !isWanted(e, e.sentGate[i])) moveGate(e, e.sentGate[i], 0, e.sentBy[i], e.sentFired[i]);
  let kept = 0;
  for (let i = 0; i < e.sent; i++) {
    if (hasPassed(e, i)) continue;
    e.sentGate[kept] = e.sentGate[i];
    e.sentOpenAt[kept] = e.sentOpenAt[i];
    e.sentCloseAt[kept] = e.sentCloseAt[i];
    e.sentOpened[kept] = e.sentOpened[i];
    e.sentBy[kept] = e.sentBy[i];
    e.sentFired[kept] = e.sentFired[i];
    kept += 1;
  }
  e.sent = kept;
}

/** Tells whether a gate stays open for another piece, which comes sooner than it could close and open again. */
function isWanted(e: Engine, gate: int): boolean {
  const lead = gateLead(e, gate);
  for (let i = 0; i < e.sent; i++)
    if (
      !hasPassed(e, i) &&
      e.sentGate[i] === gate &&
      (e.sentOpened[i] === 1 || e.sentOpenAt[i] - lead <= e.wayLeft + lead)
    )
      return true;
  return false;
}
