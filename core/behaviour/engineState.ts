import type { ModeId, ResponseId, SensorId, TargetId } from "../names";
import { type Features, isCamera, type Raw } from "../readings";
import { NOTHING_SEEN, type Steadied } from "../rules";
import { type Blob, isSeen, noSights, type Sight } from "../vision";
import type { PictureName } from "./pictures";
import type { Program } from "./program";
import type { Response } from "./schema";
import type { Step } from "./steps";
import type { Begun, TravelGoal, WheelTravel } from "./steps/StepKind";

/** What a moment brings in: new readings by mount, and the wheels' travel so far in mm. */
export interface EngineInput {
  readings: readonly { eye: number; raw: Raw }[];
  travel: WheelTravel;
  /** Buttons of the robot that are held down. */
  pressed?: readonly string[];
  /** The largest blob of each target in a camera's new frame, by mount. */
  blobs?: readonly { eye: number; blobs: ReadonlyMap<TargetId, Blob> }[];
}

/** What the robot is told. Speeds are shares of top speed. */
export type Command =
  | { kind: "wheels"; left: number; right: number }
  | { kind: "stop"; how: "brake" | "coast" }
  | { kind: "lamp"; lamp: string; colour: string | null; blinkHz: number }
  | { kind: "tone"; hertz: number; ms: number }
  | { kind: "tune"; tones: readonly { hertz: number; ms: number }[] }
  | { kind: "say"; text: string }
  | { kind: "show"; text: string }
  | { kind: "picture"; picture: PictureName }
  | { kind: "servo"; servo: string; degrees: number; degreesPerSecond: number }
  | { kind: "gate"; gate: string; open: boolean };

/** What happened, for the log, the checks and the *did* lane; `t` in ms. */
export type Note =
  | { t: number; kind: "arrives" | "departs"; sensor: SensorId; target: TargetId }
  | { t: number; kind: "fires"; response: ResponseId; mode: ModeId; target?: TargetId; sensor?: SensorId }
  | { t: number; kind: "dropped"; response: ResponseId; mode: ModeId }
  | { t: number; kind: "step"; phrase: string }
  | { t: number; kind: "ended"; response: ResponseId | null }
  | { t: number; kind: "mode"; mode: ModeId }
  | { t: number; kind: "counter"; counter: string; value: number }
  | { t: number; kind: "list"; list: string; targets: readonly TargetId[] }
  | { t: number; kind: "log"; text: string }
  /** A gate is told to move, by a response that fired for a piece at the time `fired`, where one did. */
  | { t: number; kind: "gate"; gate: string; open: boolean; response: ResponseId | null; fired: number | null }
  /** A piece left the belt of a run: into a crate, or null where a gate jammed it. It is known by its place in the row. */
  | { t: number; kind: "piece"; piece: number; target: TargetId; into: string | null; gate?: string }
  | { t: number; kind: "finish" }
  | { t: number; kind: "trouble"; text: string };

export interface Eye {
  features: Features | null;
  label: number;
  steadied: Steadied;
  knownAt: number;
  /** The last visit whose departure was told. */
  departed: number;
  /** Of the newest frame, for a camera. */
  blobs: ReadonlyMap<TargetId, Blob> | null;
  /** What a camera sees of each target; null for a sensor that sees one thing at a time. */
  sights: readonly Sight[] | null;
  /** How far a belt had gone at each of the readings that steadying remembers, in mm; empty where nothing sorts. */
  ways: readonly number[];
  /** The same at the first reading of the visit that arrived last, and of the one before it. */
  visitWay: number;
  lastWay: number;
}

/** Whether a sensor sees the target of a label. */
export const seesLabel = ({ steadied, sights }: Eye, label: number): boolean =>
  sights === null ? steadied.seen === label : isSeen(sights, label);

/** The label that a sensor sees, 0 for none; of several that a camera sees, the first. */
export const seenLabel = ({ steadied, sights }: Eye): number =>
  sights === null ? steadied.seen : sights.findIndex((_, i) => isSeen(sights, i + 1)) + 1;

/** The piece that fired: how far the belt had gone with the first reading of it, in mm, by which sensor, and when it fired. */
export interface FiredPiece {
  eye: number;
  way: number;
  t: number;
}

/** A piece on its way to a gate, which must be open once the belt has gone so far, in mm, and may then close. */
export interface Sent {
  gate: string;
  openAt: number;
  closeAt: number;
  opened: boolean;
  response: ResponseId | null;
  fired: number;
}

/** Steps in progress; those of a routine stand before the ones that did it. */
export interface Frame {
  steps: readonly Step[];
  index: number;
  /** How often they are done again. */
  again: number;
  /** The target that fired, for `jot`. */
  target: TargetId | null;
  /** The piece that fired, for `send`; null where nothing sorts. */
  piece: FiredPiece | null;
  /** How many sequences are in progress up to this one. */
  depth: number;
  outer: Frame | null;
}

export interface Activity {
  /** null: the mode's entering steps. */
  response: Response | null;
  frame: Frame;
  begun: Begun | null;
}

/** A step that runs beside the others for as long as it owns an output. */
export interface Beside {
  step: Step;
  begun: Begun;
  outputs: readonly string[];
}

export interface Arm {
  /** The occasion on which it last had its turn. */
  spent: number;
  readyAt: number;
  held: boolean;
}

/** The whole state of a behaviour; plain data, replaced and never changed. */
export interface EngineState {
  readonly t: number;
  readonly started: boolean;
  readonly finished: boolean;
  readonly mode: ModeId;
  readonly modeSince: number;
  readonly eyes: readonly Eye[];
  readonly counters: Readonly<Record<string, number>>;
  readonly lists: Readonly<Record<string, readonly TargetId[]>>;
  readonly servos: Readonly<Record<string, number>>;
  /** What the wheels were last told. */
  readonly wheels: Readonly<{ left: number; right: number }> | null;
  /** Which gates were told to be open, and what is on its way to them. */
  readonly gates: Readonly<Record<string, boolean>>;
  readonly sent: readonly Sent[];
  /** How far a belt must have gone for the next gate to be told, in mm. */
  readonly gatesDue: number;
  readonly activity: Activity | null;
  readonly besides: readonly Beside[];
  readonly arms: Readonly<Record<string, Arm>>;
  /** How far the wheels had turned when they last did, in steps of their encoders, and when that was, in ms. */
  readonly turned: Readonly<{ left: number; right: number; at: number }>;
  /** Before this time nothing happens unless something comes in or the wheels have gone what is awaited. */
  readonly quietUntil: number;
  readonly awaited: Readonly<{ goal: TravelGoal; from: WheelTravel }> | null;
}

export function startState(program: Program): EngineState {
  return {
    t: 0,
    started: false,
    finished: false,
    mode: program.start,
    modeSince: 0,
    eyes: program.eyes.map(({ sensor }) => ({
      features: null,
      label: 0,
      steadied: NOTHING_SEEN,
      knownAt: -Infinity,
      departed: 0,
      blobs: null,
      sights: isCamera(sensor) ? noSights(program.targets.length) : null,
      ways: [],
      visitWay: 0,
      lastWay: 0,
    })),
    counters: Object.fromEntries(program.counters.map((name) => [name, 0])),
    lists: Object.fromEntries(program.lists.map((name) => [name, []])),
    servos: program.servos,
    wheels: null,
    gates: {},
    sent: [],
    gatesDue: Number.POSITIVE_INFINITY,
    activity: null,
    besides: [],
    arms: {},
    turned: { left: 0, right: 0, at: -Infinity },
    quietUntil: -Infinity,
    awaited: null,
  };
}
