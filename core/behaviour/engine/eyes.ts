import type { int, num } from "../../arithmetic";
import { saysTheSame, steady } from "../../rules";
import { BLOB_CELLS, ENCODER_STEPS, type Engine, NOTE_ARRIVES, NOTE_DEPARTS, STILL_MS } from "./Engine";

/** Takes in what one reading of a sensor is taken for. */
export function labelTaken(e: Engine, eye: int, label: int): void {
  e.brings = true;
  e.labelOf[eye] = label;
  const s = e.steadying;
  const before = s.visit[eye];
  const moves = e.p.machine.hasBelt && !saysTheSame(s, eye, label);
  steady(s, eye, label, e.now);
  if (s.seen[eye] !== 0 || s.goes[eye] !== 0) e.knownAt[eye] = e.now;
  if (moves) rememberWay(e, eye, label);
  // Where it rejoins its visit it departs a second time, which is told once.
  if (s.goes[eye] !== 0) {
    departed(e, eye, s.goes[eye], before, e.departureTold[eye] !== before);
    e.departureTold[eye] = before;
  }
  if (s.comes[eye] !== 0) arrived(e, eye, s.comes[eye]);
}

/** Remembers how far the belt had gone with each reading that steadying looks back on, and with the first of a visit. */
function rememberWay(e: Engine, eye: int, label: int): void {
  const s = e.steadying;
  const first = eye * s.kept;
  let i = first + s.recentCount[eye] - 1;
  while (i > first) {
    e.ways[i] = e.ways[i - 1];
    i -= 1;
  }
  e.ways[first] = e.wayLeft;
  if (s.comes[eye] === 0) return;
  e.lastWay[eye] = e.visitWay[eye];
  const last = first + Math.min(s.of[eye], s.recentCount[eye]);
  for (let k = first; k < last; k++) if (s.recent[k] === label) e.visitWay[eye] = e.ways[k];
}

/** Takes in which targets have a blob in a camera's new frame, as they stand in `blobs`; each is steadied by itself. */
export function sightsTaken(e: Engine, eye: int): void {
  const s = e.steadying;
  const first = e.p.machine.sightsAt[eye];
  const last = first + e.p.machine.targets;
  e.brings = true;
  e.frameCame[eye] = 1;
  let isKnown = false;
  for (let place = first; place < last; place++) {
    const label = place - first + 1;
    const before = s.visit[place];
    steady(s, place, e.blobs[place * BLOB_CELLS] > 0 ? label : 0, e.now);
    if (s.goes[place] !== 0 || s.seen[place] !== 0) isKnown = true;
    if (s.goes[place] !== 0) {
      departed(e, eye, label, visitNumber(before, label), e.departureTold[place] !== before);
      e.departureTold[place] = before;
    }
  }
  if (isKnown) e.knownAt[eye] = e.now;
  for (let place = first; place < last; place++) if (s.comes[place] !== 0) arrived(e, eye, place - first + 1);
}

function departed(e: Engine, eye: int, label: int, visit: int, isTold: boolean): void {
  if (e.departures < e.p.machine.events) {
    e.departureEye[e.departures] = eye;
    e.departureLabel[e.departures] = label;
    e.departureVisit[e.departures] = visit;
    e.departures += 1;
  }
  if (isTold) e.robot.note(NOTE_DEPARTS, eye, label, 0, 0);
}

function arrived(e: Engine, eye: int, label: int): void {
  if (e.arrivals < e.p.machine.events) {
    e.arrivalEye[e.arrivals] = eye;
    e.arrivalLabel[e.arrivals] = label;
    e.arrivals += 1;
  }
  e.robot.note(NOTE_ARRIVES, eye, label, 0, 0);
}

/** A number for the visit of a camera's target that no other target's visit has. */
function visitNumber(visit: int, label: int): int {
  return visit * 256 + label;
}

/** The label that a sensor sees, 0 for none; of several that a camera sees, the first. A sensor of −1 is not there. */
export function seenBy(e: Engine, eye: int): int {
  if (eye < 0) return 0;
  const first = e.p.machine.sightsAt[eye];
  if (first < 0) return e.steadying.seen[eye];
  const last = first + e.p.machine.targets;
  for (let place = first; place < last; place++) if (e.steadying.seen[place] !== 0) return place - first + 1;
  return 0;
}

/** Tells whether a sensor sees the target of a label; for 0, whether it sees none. */
export function sees(e: Engine, eye: int, label: int): boolean {
  if (eye < 0 || label === 0 || e.p.machine.sightsAt[eye] < 0) return seenBy(e, eye) === label;
  return e.steadying.seen[e.p.machine.sightsAt[eye] + label - 1] === label;
}

/** The number of the visit before a sensor that goes on or ended last; a camera has visits of each target. */
export function visitOf(e: Engine, eye: int, label: int): int {
  if (eye < 0) return 0;
  const first = e.p.machine.sightsAt[eye];
  if (first < 0) return e.steadying.visit[eye];
  return visitNumber(e.steadying.visit[first + label - 1], label);
}

/** Gives a cell of a target's largest blob; NaN where there is none. An eye below 0 is the first camera of which a frame has come. */
export function blobOf(e: Engine, eye: int, label: int, cell: int): num {
  let camera = eye;
  if (eye < 0) {
    camera = -1;
    for (let i = 0; i < e.p.machine.eyes; i++) if (camera < 0 && e.frameCame[i] !== 0) camera = i;
  }
  if (camera < 0) return Number.NaN;
  if (e.frameCame[camera] === 0) return Number.NaN;
  const at = (e.p.machine.sightsAt[camera] + label - 1) * BLOB_CELLS;
  return e.blobs[at] > 0 ? e.blobs[at + cell] : Number.NaN;
}

/** Notes what the wheels' encoders count now, and since when. */
export function countTurns(e: Engine): void {
  const left = Math.floor((e.wayLeft / (Math.PI * e.p.machine.wheelMm)) * ENCODER_STEPS);
  const right = Math.floor((e.wayRight / (Math.PI * e.p.machine.wheelMm)) * ENCODER_STEPS);
  if (left === e.turnedLeft && right === e.turnedRight) return;
  e.turnedLeft = left;
  e.turnedRight = right;
  e.turnedAt = e.now;
}

/** Tells whether the wheels are at rest. */
export function isStill(e: Engine): boolean {
  return e.now - e.turnedAt >= STILL_MS;
}
