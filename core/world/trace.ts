import type { BeltMachine, Command, Note } from "../behaviour";
import type { LightId, ResponseId, SensorId, TargetId } from "../names";
import type { RawReadings } from "../readings";
import { keptBlob } from "../vision";
import type { Body } from "./body";
import type { DrawnCourse } from "./courses/DrawnCourse";
import type { Ending } from "./ending";

/** What one sensor read in a run, one entry a reading. Labels count targets from 1; 0 is unknown. */
export interface EyeTrace {
  sensor: SensorId;
  height: number;
  readings: RawReadings;
  labels: Uint8Array<ArrayBuffer>;
  seen: Uint8Array<ArrayBuffer>;
  /** The target under the whole spot, from 1; 0 where the spot lay on an edge. */
  truth: Uint8Array<ArrayBuffer>;
  /** Of one that looks down: where its spot is from the robot's middle, and how wide, in mm. */
  spot?: { ahead: number; left: number; mm: number };
  /** Of a camera: its readings are times of frames, labels and seen the first of its targets. */
  frames?: FramesTrace;
}

/** What a camera did in a run, frame after frame; targets in the order of the trace. */
export interface FramesTrace {
  /** From where each frame was taken: x, y, sine and cosine of the robot. */
  poses: Float64Array<ArrayBuffer>;
  /** The largest blob of each target in each frame, as `keptBlob` gives it. */
  blobs: Int32Array<ArrayBuffer>;
  /** Whether each target is seen after each frame. */
  seen: Uint8Array<ArrayBuffer>;
}

/** Something to be seen that is there once: a patch, a sign, a card or a line. It is known by its place among them. */
export interface Thing {
  kind: "patch" | "plate" | "piece" | "sign" | "card" | "line";
  target: TargetId;
}

/** The things of a course: its patches, then its signs, its cards and its lines. */
export function thingsOf({ patches, signs, cards, lines }: DrawnCourse): Thing[] {
  return [
    ...patches.map(({ as = "patch" as const, target }): Thing => ({ kind: as, target })),
    ...signs.map(({ target }): Thing => ({ kind: "sign", target })),
    ...cards.map(({ target }): Thing => ({ kind: "card", target })),
    ...lines.map(({ target }): Thing => ({ kind: "line", target })),
  ];
}

/** A sensor's way over one thing, in ms; `left` is missing if the run ended on it. */
export interface Passage {
  patch: number;
  target: TargetId;
  /** Which of the robot's sensors, from 0. */
  eye: number;
  entered: number;
  left?: number;
}

/**
 * A response that fired for a target that came or was there, and what it answered in truth: the thing of that target
 * which the sensor's spot touched most during the visit; where it touched none, whatever it touched most.
 */
export interface Answer {
  t: number;
  response: ResponseId;
  target: TargetId;
  /** Which of the robot's sensors, from 0. */
  eye: number;
  /** Undefined where there was nothing. */
  truth?: TargetId;
  patch?: number;
}

export type { Ending } from "./ending";

/** All that happened in a run. Poses and speeds have one entry a tick; lengths in mm, angles in degrees, times in ms. */
export interface Trace {
  course: DrawnCourse;
  start: string;
  light: LightId;
  seed: number;
  tickMs: number;
  targets: readonly TargetId[];
  /** What stands along the belt of a sorter. */
  belt?: BeltMachine & { belongs: Readonly<Record<TargetId, string>> };
  x: Float64Array<ArrayBuffer>;
  y: Float64Array<ArrayBuffer>;
  heading: Float64Array<ArrayBuffer>;
  /** Sine and cosine of the body's direction: sensors go by them. */
  sin: Float64Array<ArrayBuffer>;
  cos: Float64Array<ArrayBuffer>;
  /** Where the first sensor's spot was; of one that looks to a side, its mount. */
  eyeX: Float64Array<ArrayBuffer>;
  eyeY: Float64Array<ArrayBuffer>;
  speed: Float64Array<ArrayBuffer>;
  slipping: Uint8Array<ArrayBuffer>;
  eyes: EyeTrace[];
  notes: Note[];
  outputs: { t: number; command: Command }[];
  passages: Passage[];
  /** Which of the robot's sensors the responses to a target listen to. */
  listeners: ReadonlyMap<TargetId, ReadonlySet<number>>;
  answers: Answer[];
  ending: Ending;
  endMs: number;
  /** The targets under the first sensor's spot at the end, each with its share of it; the largest first. */
  underAtEnd: readonly { target: TargetId; share: number }[];
}

const thousandth = (x: number) => Math.round(x * 1000) / 1000 || 0;

/** Where a body is at a time as plain numbers, lengths and angles to a thousandth. */
export const poseLine = (
  t: number,
  { x, y, heading, speed, slipping }: Pick<Body, "x" | "y" | "heading" | "speed" | "slipping">,
) => ({
  t_ms: t,
  x_mm: thousandth(x),
  y_mm: thousandth(y),
  heading_deg: thousandth(heading),
  speed_mm_s: thousandth(speed),
  slip: slipping ? 1 : 0,
});

/** The same of one tick of a trace. */
const tickOf = ({ tickMs, x, y, heading, speed, slipping }: Trace, i: number) =>
  poseLine(i * tickMs, { x: x[i], y: y[i], heading: heading[i], speed: speed[i], slipping: slipping[i] === 1 });

const labelName = (trace: Trace, label: number) => (label === 0 ? "unknown" : trace.targets[label - 1]);

/** What a camera found in a frame and saw after it. */
function frameOf(trace: Trace, { sensor, frames }: EyeTrace, k: number) {
  const { targets } = trace;
  const { blobs, seen } = frames as FramesTrace;
  return {
    sensor,
    seen: targets.filter((_, i) => seen[k * targets.length + i] === 1),
    blobs: Object.fromEntries(
      targets.flatMap((target, i) => {
        const blob = keptBlob(blobs, k * targets.length + i);
        return blob === undefined ? [] : [[target, blob]];
      }),
    ),
  };
}

function readingOf(trace: Trace, eye: EyeTrace, k: number) {
  const channels = Object.fromEntries(Object.entries(eye.readings.channels).map(([name, column]) => [name, column[k]]));
  return {
    sensor: eye.sensor,
    ...channels,
    label: labelName(trace, eye.labels[k]),
    seen: labelName(trace, eye.seen[k]),
    truth: labelName(trace, eye.truth[k]),
  };
}

/**
 * The trace as JSON lines: the run's settings, then every tick with the readings taken and the notes made in it, then
 * how it ended.
 */
export function traceJsonLines(trace: Trace): string {
  const lines = [
    JSON.stringify({
      course: trace.course.id,
      start: trace.start,
      light: trace.light,
      seed: trace.seed,
      tick_ms: trace.tickMs,
    }),
  ];
  const at = trace.eyes.map(() => 0);
  let note = 0;
  for (let i = 0; i < trace.x.length; i++) {
    const tick = tickOf(trace, i);
    const readings = trace.eyes.flatMap((eye, e) =>
      eye.readings.t[at[e]] === tick.t_ms
        ? [eye.frames === undefined ? readingOf(trace, eye, at[e]++) : frameOf(trace, eye, at[e]++)]
        : [],
    );
    const from = note;
    while (note < trace.notes.length && trace.notes[note].t <= tick.t_ms) note++;
    const notes = trace.notes.slice(from, note).map(({ t: _, ...rest }) => rest);
    lines.push(
      JSON.stringify({ ...tick, ...(readings.length > 0 && { readings }), ...(notes.length > 0 && { notes }) }),
    );
  }
  lines.push(JSON.stringify({ ending: trace.ending, end_ms: trace.endMs }));
  return `${lines.join("\n")}\n`;
}

/** The trace as CSV, a line a tick, with the first sensor's reading where one was taken. */
export function traceCsv(trace: Trace): string {
  const [eye] = trace.eyes;
  const channels = Object.keys(eye.readings.channels);
  const lines = [["t_ms,x_mm,y_mm,heading_deg,speed_mm_s,slip", ...channels, "label,seen,truth"].join(",")];
  let k = 0;
  for (let i = 0; i < trace.x.length; i++) {
    const tick = tickOf(trace, i);
    const cells: (string | number)[] = Object.values(tick);
    if (eye.readings.t[k] === tick.t_ms) {
      const { sensor: _, ...reading } = readingOf(trace, eye, k++);
      cells.push(...Object.values(reading));
    } else cells.push(...channels.map(() => ""), "", "", "");
    lines.push(cells.join(","));
  }
  return `${lines.join("\r\n")}\r\n`;
}
