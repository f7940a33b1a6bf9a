import { sinCos } from "../../arithmetic";
import type { NameOf } from "../../behaviour";
import type { SensorId, TargetId } from "../../names";
import { cameToItsEnd } from "../ending";
import { type Answer, type Passage, type Trace, thingsOf } from "../trace";
import type { Verdict } from "./CheckKind";

/** A time of a run, as a sentence tells it. */
export const at = (ms: number) => `${(ms / 1000).toFixed(2)} s`;

/** How often something happened. */
export const times = (n: number) => (n === 1 ? "1 time" : `${n} times`);

/** The arrivals that a sensor saw; of the first one where none is named. */
export function arrivalsAt(trace: Trace, sensor: SensorId | undefined): { t: number; target: TargetId }[] {
  const by = sensor ?? trace.eyes[0]?.sensor;
  return trace.notes.flatMap((note) =>
    note.kind === "arrives" && note.sensor === by ? [{ t: note.t, target: note.target }] : [],
  );
}

/** A check that goes by a sensor, as its phrase begins and as its sentence ends. */
export const bySensor = (sensor: SensorId | undefined) => (sensor === undefined ? "" : `${sensor}: `);
export const toldBySensor = (sensor: SensorId | undefined, name: NameOf) =>
  sensor === undefined ? "" : `, by ${name(sensor)}`;

/** How the run came to its end. */
export function ended({ ending, endMs }: Trace): string {
  if (ending === "finished") return `the behaviour finished at ${at(endMs)}`;
  if (ending === "the belt is empty") return `every piece had left the belt at ${at(endMs)}`;
  if (ending === "ran into the end") return `the robot ran into the end of the rail at ${at(endMs)}`;
  return ending === "left the course" ? `the robot left the course at ${at(endMs)}` : `time was over at ${at(endMs)}`;
}

/** A sentence of parts: the first letter large, a full stop behind. */
export function sentence(...parts: (string | undefined)[]): string {
  const text = parts.filter((part) => part !== undefined && part !== "").join("; ");
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}

/** What a run did not come to: where it finished it fails, at `t`; otherwise it might still have come to it. */
export const unmet = (trace: Trace, figure: string, why: string, t = trace.endMs): Verdict =>
  cameToItsEnd(trace.ending) ? { outcome: "does not", figure, t, why } : { outcome: "not reached", figure, why };

/** A thing of the course in words: what it is, which one of its kind, and where it lies or when it is held. */
export function thingWords(trace: Trace, piece: number, name: NameOf): string {
  const { course } = trace;
  const { kind, target } = thingsOf(course)[piece];
  if (kind === "piece") return `piece ${piece + 1} (${name(target)})`;
  const place = ([x, y]: readonly [number, number]) => `${(x / 10).toFixed(0)}, ${(y / 10).toFixed(0)} cm`;
  const signs = course.patches.length;
  const cards = signs + course.signs.length;
  const lines = cards + course.cards.length;
  const where = {
    patch: () => place(course.patches[piece].at),
    plate: () => place(course.patches[piece].at),
    sign: () => place(course.signs[piece - signs].at),
    card: () => at(course.cards[piece - cards].atMs),
    line: () => place(course.lines[piece - lines].points[0]),
  }[kind]();
  return `the ${kindly(name(target), kind)} at ${where}`;
}

/** A name with its kind behind it, unless it ends with that: “White plate”, not “White plate plate”. */
const kindly = (name: string, kind: string) => (name.toLowerCase().endsWith(kind) ? name : `${name} ${kind}`);

/** What an answer was given to in truth. */
export function answeredWords(trace: Trace, answer: Answer, name: NameOf): string {
  if (answer.patch !== undefined) return thingWords(trace, answer.patch, name);
  return answer.truth === undefined ? "nothing" : name(answer.truth);
}

/** Way of the axle's middle between two times, in mm. */
export function wayBetween(trace: Trace, from: number, to: number): number {
  let way = 0;
  for (let i = Math.round(from / trace.tickMs); i < Math.round(to / trace.tickMs); i++)
    way += (Math.abs(trace.speed[Math.min(i, trace.speed.length - 1)]) * trace.tickMs) / 1000;
  return way;
}

/** Farther ahead than this a thing has nothing to do with an answer, in mm. */
const AHEAD = 200;

/**
 * How far before its edge a thing was answered, in mm: an answer to its target that touched none of them, where the
 * sensor came over the thing soon after. Undefined where there is none.
 */
export function tooEarly(trace: Trace, passage: Passage): { answer: Answer; mm: number } | undefined {
  for (const answer of trace.answers.toReversed()) {
    if (answer.target !== passage.target || answer.truth === answer.target || answer.eye !== passage.eye) continue;
    if (answer.t > passage.entered) continue;
    const mm = wayBetween(trace, answer.t, passage.entered);
    return mm <= AHEAD ? { answer, mm } : undefined;
  }
  return undefined;
}

/**
 * Where the middle of the first sensor's spot first passed a plate: when it was nearest to the plate's middle, and how
 * many mm left of it along the rail. Undefined where it never came between the plate's ends, and for all that is no plate.
 */
export function besidePlate(trace: Trace, piece: number): { t: number; left: number; within: number } | undefined {
  const plate = trace.course.patches.at(piece);
  if (plate?.as !== "plate" || !("rect" in plate.shape)) return undefined;
  const [length, width] = plate.shape.rect;
  const { sin, cos } = sinCos(plate.angle);
  let best: { t: number; left: number; ahead: number } | undefined;
  for (let i = 0; i < trace.eyeX.length; i++) {
    const [dx, dy] = [trace.eyeX[i] - plate.at[0], trace.eyeY[i] - plate.at[1]];
    const ahead = Math.abs(dx * cos + dy * sin);
    const left = dy * cos - dx * sin;
    // Of a loop another part may lie as far along, on the other side.
    const near = ahead <= length / 2 && Math.abs(left) <= width / 2 + AHEAD;
    if (!near && best !== undefined) break;
    if (near && (best === undefined || ahead < best.ahead)) best = { t: i * trace.tickMs, left, ahead };
  }
  return best && { t: best.t, left: best.left, within: width / 2 - Math.abs(best.left) };
}

/** The same in words; nothing where the spot lay wholly on the plate or nowhere near it. */
export function besideWords(trace: Trace, piece: number): string | undefined {
  const passed = besidePlate(trace, piece);
  if (passed === undefined || Math.abs(passed.left) < 1) return undefined;
  const mm = (off: number) => `${Math.abs(off).toFixed(0)} mm`;
  const side = passed.left > 0 ? "left" : "right";
  const edge = `${mm(passed.within)} ${passed.within < 0 ? "beside" : "within"} its edge`;
  return `the middle of the spot passed ${mm(passed.left)} ${side} of the plate’s at ${at(passed.t)}, ${edge}`;
}

/** Why a thing that a sensor came over was not answered: too early, not recognised, or recognised and nothing done. */
export function whyMissed(trace: Trace, passage: Passage, name: NameOf): string {
  const early = tooEarly(trace, passage);
  if (early !== undefined) return `it was answered ${early.mm.toFixed(0)} mm too early, at ${at(early.answer.t)}`;
  const { entered, left = trace.endMs, target } = passage;
  const eye = trace.eyes[passage.eye];
  const label = trace.targets.indexOf(target) + 1;
  let [readings, right] = [0, 0];
  const others = new Map<TargetId | undefined, number>();
  eye.readings.t.forEach((t, k) => {
    if (t < entered || t > left) return;
    readings++;
    if (eye.labels[k] === label) right++;
    else others.set(trace.targets[eye.labels[k] - 1], (others.get(trace.targets[eye.labels[k] - 1]) ?? 0) + 1);
  });
  const arrival = trace.notes.find(
    (n) =>
      n.kind === "arrives" && n.target === target && n.sensor === eye.sensor && n.t >= entered && n.t <= left + 200,
  );
  if (arrival !== undefined) {
    const dropped = trace.notes.some((n) => n.kind === "dropped" && n.t === arrival.t);
    const before = trace.notes.filter((n) => n.kind === "fires" && n.t < arrival.t).at(-1);
    if (!dropped || before?.kind !== "fires")
      return `it was seen at ${at(arrival.t)}, and no response was started by it`;
    const running = before.target === undefined ? "another response" : `the response to ${name(before.target)}`;
    return `it was seen at ${at(arrival.t)}, when ${running} that began at ${at(before.t)} was still running`;
  }
  if (readings === 0) {
    const period = eye.readings.t.length > 1 ? eye.readings.t[1] - eye.readings.t[0] : 0;
    return `no reading fell on it in the ${(left - entered).toFixed(0)} ms that it took; the sensor reads every ${period} ms`;
  }
  const [most] = [...others].sort((a, b) => b[1] - a[1]);
  const taken =
    most === undefined ? "" : `, ${most[1]} were taken for ${most[0] === undefined ? "unknown" : name(most[0])}`;
  const few = `${right} of the ${readings} readings on it were ${name(target)}${taken}, which was too few to see it`;
  const beside = besideWords(trace, passage.patch);
  return beside === undefined ? few : `${few}; ${beside}`;
}
