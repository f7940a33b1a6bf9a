import type { ModeId, ResponseId, SensorId, TargetId } from "../names";
import type { Features, Raw } from "../readings";
import { BLOB_ORDER, type Blob } from "../vision";
import {
  BLOB_CELLS,
  Engine,
  MOST_JOTTED,
  NOTE_ARRIVES,
  NOTE_COUNTER,
  NOTE_DEPARTS,
  NOTE_DROPPED,
  NOTE_ENDED,
  NOTE_FINISH,
  NOTE_FIRES,
  NOTE_GATE,
  NOTE_LIST,
  NOTE_MODE,
  NOTE_STEP,
  NOTE_TROUBLE,
  type RobotSide,
} from "./engine/Engine";
import { seenBy, sees } from "./engine/eyes";
import { type Command, OUTPUTS } from "./outputs";
import type { Program } from "./program";
import { printStep, type Step } from "./steps";
import type { TravelGoal, WheelTravel } from "./steps/StepKind";
import { troubleText } from "./troubles";

/** What a moment brings in: new readings by mount, and the wheels' travel so far in mm. */
export interface EngineInput {
  readings: readonly { eye: number; raw: Raw }[];
  travel: WheelTravel;
  /** Buttons of the robot that are held down. */
  pressed?: readonly string[];
  /** The largest blob of each target in a camera's new frame, by mount. */
  blobs?: readonly { eye: number; blobs: ReadonlyMap<TargetId, Blob> }[];
}

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

/** Most moments bring nothing: the one empty array of all of them. */
export const NONE: never[] = [];

/** The state of a behaviour in the names of its project. Moments change it in place. */
export class EngineState {
  readonly engine: Engine;
  /** Commands and notes of this moment, as far as it has come. */
  commands: Command[] = NONE;
  notes: Note[] = NONE;
  /** Before this time, in ms, nothing happens unless something comes in or the wheels have gone what is awaited. */
  quietUntil = Number.NEGATIVE_INFINITY;
  awaited: { goal: TravelGoal; from: WheelTravel } | null = null;
  /** The way of the belt at which the next gate is told, in mm. */
  gatesDue = Number.POSITIVE_INFINITY;
  /** The readings of this moment: their features, and what each is taken for. */
  readonly read: Features[] = [];
  readonly taken: number[] = [];
  /** The buttons that are held down. */
  held: readonly string[] = NONE;

  constructor(public program: Program) {
    this.engine = new Engine(program.rows, program.naming.kinds, Told.by(this));
  }

  get t(): number {
    return this.engine.now;
  }
  get finished(): boolean {
    return this.engine.hasFinished;
  }
  get mode(): ModeId {
    const { engine, program } = this;
    return engine.hasStarted ? program.modes[engine.modeNow].mode.id : program.start;
  }
  /** Gives the label of a sensor's newest reading, 0 for unknown. */
  labelOf(eye: number): number {
    return this.engine.labelOf[eye];
  }
  /** The label that a sensor sees, 0 for none; of several that a camera sees, the first. */
  seenBy(eye: number): number {
    return seenBy(this.engine, eye);
  }
  /** Tells whether a sensor sees the target of a label. */
  sees(eye: number, label: number): boolean {
    return sees(this.engine, eye, label);
  }
  counter(name: string): number {
    return this.engine.counters[this.program.naming.counter(name)] ?? 0;
  }
  list(name: string): TargetId[] {
    const { engine, program } = this;
    const list = program.naming.list(name);
    const all = engine.lists.subarray(list * MOST_JOTTED, list * MOST_JOTTED + engine.listLength[list]);
    return Array.from(all, (label) => program.targets[label - 1]);
  }
  /** The steps that run: the response, or null for the mode's own, and the step that is under way; null where none do. */
  get activity(): { response: ResponseId | null; step: Step | undefined } | null {
    const { engine, program } = this;
    if (!engine.isActive) return null;
    const step = program.naming.stepAt.get(engine.frameAt[engine.depth - 1]);
    return { response: program.responses[engine.response] ?? null, step };
  }
  /** The last occasion on which a response of the present mode had its turn; NaN for none. Another mode may have one of the same id. */
  spent(response: ResponseId): number {
    const { engine, program } = this;
    const [first, last] = engine.p.firstResponse.subarray(engine.modeNow, engine.modeNow + 2);
    const r = program.responses.findIndex((id, i) => i >= first && i < last && id === response);
    return engine.armSpent[r] ?? Number.NaN;
  }

  /** Puts the largest blobs of a camera's frame where the engine looks for them. */
  putBlobs(eye: number, blobs: ReadonlyMap<TargetId, Blob>): void {
    const { engine, program } = this;
    const first = engine.p.machine.sightsAt[eye];
    program.targets.forEach((target, i) => {
      const blob = blobs.get(target);
      const at = (first + i) * BLOB_CELLS;
      BLOB_ORDER.forEach((field, k) => {
        engine.blobs[at + k] = blob?.[field] ?? 0;
      });
    });
  }

  /** Goes by other rules from here on; behaviour, robot and sensors must be the same. */
  goBy(program: Program): void {
    this.program = program;
    this.engine.goBy(program.rows, program.naming.kinds);
  }
}

/** Hears what an engine tells and notes in numbers, and keeps it in the names of the project. */
class Told implements Pick<RobotSide, "log" | "note"> {
  private constructor(private readonly state: EngineState) {}

  static by(state: EngineState): RobotSide {
    const told = new Told(state);
    const commands = OUTPUTS.entries.map((kind) => [
      kind.key,
      (...by: (number | string)[]) => told.command(kind.heard(state.program, ...by)),
    ]);
    return Object.assign(told, Object.fromEntries(commands) as Omit<RobotSide, "log" | "note">);
  }

  // Most moments bring neither notes nor commands, so the arrays are made with their first entry.
  private command(command: Command): void {
    if (this.state.commands === NONE) this.state.commands = [];
    this.state.commands.push(command);
  }
  private keep(note: Note): void {
    if (this.state.notes === NONE) this.state.notes = [];
    this.state.notes.push(note);
  }

  log(text: string): void {
    this.keep({ t: this.state.t, kind: "log", text });
  }

  note(kind: number, a: number, b: number, c: number, x: number): void {
    const { t, program, engine } = this.state;
    const { eyes, targets, responses, naming } = program;
    const target = (label: number) => targets[label - 1];
    switch (kind) {
      case NOTE_ARRIVES:
      case NOTE_DEPARTS:
        this.keep({ t, kind: kind === NOTE_ARRIVES ? "arrives" : "departs", sensor: eyes[a].id, target: target(b) });
        break;
      case NOTE_FIRES: {
        const by = c === 0 ? {} : { target: target(c), sensor: eyes[b].id };
        this.keep({ t, kind: "fires", response: responses[a], mode: this.state.mode, ...by });
        break;
      }
      case NOTE_DROPPED:
        this.keep({ t, kind: "dropped", response: responses[a], mode: this.state.mode });
        break;
      case NOTE_STEP:
        this.keep({ t, kind: "step", phrase: printStep(naming.stepAt.get(a) as Step) });
        break;
      case NOTE_ENDED:
        this.keep({ t, kind: "ended", response: responses[a] ?? null });
        break;
      case NOTE_MODE:
        this.keep({ t, kind: "mode", mode: this.state.mode });
        break;
      case NOTE_COUNTER:
        this.keep({ t, kind: "counter", counter: naming.counters[a], value: x });
        break;
      case NOTE_LIST: {
        const all = engine.lists.subarray(a * MOST_JOTTED, a * MOST_JOTTED + c);
        this.keep({ t, kind: "list", list: naming.lists[a], targets: Array.from(all, target) });
        break;
      }
      case NOTE_GATE: {
        const fired = Number.isNaN(x) ? null : x;
        this.keep({ t, kind: "gate", gate: naming.gates[a], open: b === 1, response: responses[c] ?? null, fired });
        break;
      }
      case NOTE_FINISH:
        this.keep({ t, kind: "finish" });
        break;
      case NOTE_TROUBLE:
        this.keep({ t, kind: "trouble", text: troubleText(program, a, b, c, x) });
        break;
    }
  }
}

/** The state of a behaviour before its first moment. */
export const startState = (program: Program): EngineState => new EngineState(program);
