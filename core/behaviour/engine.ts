import { type ModeId, type ResponseId, type SensorId, type TargetId, UNKNOWN, type Unknown } from "../project/ids";
import type { Feature, Features, Raw } from "../readings";
import { classify, NOTHING_SEEN, type Steadied, steadyNext } from "../rules";
import { holds } from "./condition";
import type { Program } from "./program";
import type { Response } from "./schema";
import { kindOf, printStep, type Step } from "./steps";
import { MAIN_LAMP } from "./steps/lamp";
import type { Begun, StepScene, WheelTravel } from "./steps/StepKind";
import type { TriggerScene } from "./triggers";

/** What a moment brings in: new readings by mount, and the wheels' travel so far in mm. */
export interface EngineInput {
  readings: readonly { eye: number; raw: Raw }[];
  travel: WheelTravel;
}

/** What the robot is told. Speeds are shares of top speed. */
export type Command =
  | { kind: "wheels"; left: number; right: number }
  | { kind: "stop"; how: "brake" | "coast" }
  | { kind: "lamp"; lamp: string; colour: string | null; blinkHz: number }
  | { kind: "tone"; hertz: number; ms: number }
  | { kind: "show"; text: string };

/** What happened, for the log, the checks and the *did* lane; `t` in ms. */
export type Note =
  | { t: number; kind: "arrives" | "departs"; sensor: SensorId; target: TargetId }
  | { t: number; kind: "fires"; response: ResponseId; mode: ModeId; target?: TargetId }
  | { t: number; kind: "dropped"; response: ResponseId; mode: ModeId }
  | { t: number; kind: "step"; phrase: string }
  | { t: number; kind: "ended"; response: ResponseId | null }
  | { t: number; kind: "mode"; mode: ModeId }
  | { t: number; kind: "counter"; counter: string; value: number }
  | { t: number; kind: "log"; text: string }
  | { t: number; kind: "finish" }
  | { t: number; kind: "trouble"; text: string };

interface Eye {
  features: Features | null;
  label: number;
  steadied: Steadied;
  knownAt: number;
}

interface Activity {
  /** null: the mode's entering steps. */
  response: Response | null;
  steps: readonly Step[];
  index: number;
  begun: Begun | null;
}

interface Arm {
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
  readonly activity: Activity | null;
  readonly arms: Readonly<Record<string, Arm>>;
}

export function startState(program: Program): EngineState {
  return {
    t: 0,
    started: false,
    finished: false,
    mode: program.start,
    modeSince: 0,
    eyes: program.eyes.map(() => ({ features: null, label: 0, steadied: NOTHING_SEEN, knownAt: -Infinity })),
    counters: Object.fromEntries(program.counters.map((name) => [name, 0])),
    activity: null,
    arms: {},
  };
}

const NEVER: Arm = { spent: Number.NaN, readyAt: -Infinity, held: false };
/** More steps than this in one moment can only be a circle. */
const MOST_STEPS_AT_ONCE = 1000;

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
  const moment = new MomentOf(program, draft, input);
  if (!state.started) {
    moment.enter(program.start);
    moment.carryOn();
  }
  for (const { eye, raw } of input.readings) moment.takeReading(eye, raw);
  moment.respond();
  moment.carryOn();
  return { state: moment.draft, commands: moment.commands, notes: moment.notes };
}

const NONE: never[] = [];
type Draft = { -readonly [K in keyof EngineState]: EngineState[K] };

/** A copy `dt` ms later. Field by field: engines copy a literal several times faster than a spread, and this is the hot path. */
function later(state: EngineState, dt: number): Draft {
  const { t, started, finished, mode, modeSince, eyes, counters, activity, arms } = state;
  return { t: t + dt, started, finished, mode, modeSince, eyes, counters, activity, arms };
}

/** The working copy of one moment: what triggers and steps look at and act on. */
class MomentOf implements StepScene, TriggerScene {
  commands: Command[] = NONE;
  notes: Note[] = NONE;
  private arrivals: number[] | null = null;
  private nextMode: ModeId | null = null;

  constructor(
    private readonly program: Program,
    readonly draft: Draft,
    private readonly input: EngineInput,
  ) {}

  get t() {
    return this.draft.t;
  }
  get travel() {
    return this.input.travel;
  }
  get trackMm() {
    return this.program.trackMm;
  }
  get wheelMm() {
    return this.program.wheelMm;
  }
  get modeSince() {
    return this.draft.modeSince;
  }

  takeReading(eye: number, raw: Raw): void {
    const { ruleSet, read, id } = this.program.eyes[eye];
    const features = read(raw);
    const taken = classify(ruleSet, features);
    const label = taken === UNKNOWN ? 0 : this.program.targets.indexOf(taken) + 1;
    const { state: steadied, events } = steadyNext(this.draft.eyes[eye].steadied, label, this.t, ruleSet.steady);
    const knownAt = steadied.seen !== 0 || events.departs !== 0 ? this.t : this.draft.eyes[eye].knownAt;
    const eyes = this.draft.eyes.slice();
    eyes[eye] = { features, label, steadied, knownAt };
    this.draft.eyes = eyes;
    const { targets } = this.program;
    if (events.departs !== 0)
      this.note({ t: this.t, kind: "departs", sensor: id, target: targets[events.departs - 1] });
    if (events.arrives !== 0) {
      this.arrivals ??= [];
      this.arrivals[eye] = events.arrives;
      this.note({ t: this.t, kind: "arrives", sensor: id, target: targets[events.arrives - 1] });
    }
  }

  /** The first response in the mode's order whose trigger holds and that is armed starts, if it may. */
  respond(): void {
    let taken = false;
    for (const { response, judge } of this.program.modes.get(this.draft.mode)?.responses ?? NONE) {
      const episode = judge.episode(response.when, this);
      const edge = judge.onEdge;
      if (episode === undefined && !edge) continue;
      const arm = this.draft.arms[response.id] ?? NEVER;
      const fresh = !(response.id in this.draft.arms);
      if (edge && (fresh || arm.held !== (episode !== undefined)))
        this.setArm(response, { held: episode !== undefined });
      if (episode === undefined || (edge && (fresh || arm.held))) continue;
      const oncePerVisit = response.fires === "once per visit";
      if (oncePerVisit && !edge && arm.spent === episode) continue;
      if (!oncePerVisit && (this.t < arm.readyAt || this.draft.activity?.response?.id === response.id)) continue;
      if (response.guard !== undefined && !holds(response.guard, this)) continue;
      if (taken || (this.draft.activity !== null && response.busy === "let it finish")) {
        // A trigger that holds while another runs is let go; one that fires while present will still hold later.
        if (oncePerVisit) {
          this.setArm(response, { spent: episode });
          this.note({ t: this.t, kind: "dropped", response: response.id, mode: this.draft.mode });
        }
        continue;
      }
      taken = true;
      this.setArm(response, { spent: episode, readyAt: this.t + (response.restMs ?? 0) });
      const target =
        "arrives" in response.when || "present" in response.when ? this.seen(response.when.sensor) : UNKNOWN;
      this.note({
        t: this.t,
        kind: "fires",
        response: response.id,
        mode: this.draft.mode,
        ...(target !== UNKNOWN && { target }),
      });
      this.draft.activity = { response, steps: response.steps, index: 0, begun: null };
    }
  }

  private setArm(response: Response, change: Partial<Arm>): void {
    this.draft.arms = { ...this.draft.arms, [response.id]: { ...(this.draft.arms[response.id] ?? NEVER), ...change } };
  }

  enter(mode: ModeId): void {
    this.draft.started = true;
    this.draft.mode = mode;
    this.draft.modeSince = this.t;
    this.draft.arms = {};
    this.note({ t: this.t, kind: "mode", mode });
    const entering = this.program.modes.get(mode)?.mode.entering ?? NONE;
    this.draft.activity = { response: null, steps: entering, index: 0, begun: null };
  }

  /** Carries the steps on as far as this moment goes. */
  carryOn(): void {
    for (let steps = 0; this.draft.activity !== null && !this.draft.finished; steps++) {
      if (steps > MOST_STEPS_AT_ONCE) {
        this.note({
          t: this.t,
          kind: "trouble",
          text: "modes and steps follow each other in a circle without time passing",
        });
        this.finish();
        return;
      }
      const { response, steps: list, index, begun } = this.draft.activity;
      const step = list[index];
      if (step === undefined) {
        this.note({ t: this.t, kind: "ended", response: response?.id ?? null });
        this.draft.activity = null;
        if (response?.then === "finish") this.finish();
        else if (response?.then !== undefined) this.enter(response.then);
        continue;
      }
      const kind = kindOf(step);
      let since = begun;
      if (since === null) {
        since = { t: this.t, travel: this.input.travel };
        this.note({ t: this.t, kind: "step", phrase: printStep(step) });
        kind.begin(step, this);
        if (this.draft.finished) return;
        if (this.nextMode !== null) {
          const mode = this.nextMode;
          this.nextMode = null;
          this.enter(mode);
          continue;
        }
      }
      if (kind.ended !== undefined && !kind.ended(step, this, since)) {
        this.draft.activity = begun === null ? { ...this.draft.activity, begun: since } : this.draft.activity;
        return;
      }
      kind.end?.(step, this);
      this.draft.activity = { response, steps: list, index: index + 1, begun: null };
    }
  }

  // Most moments bring neither notes nor commands, so the arrays are made with their first entry.
  private note(note: Note): void {
    if (this.notes === NONE) this.notes = [];
    this.notes.push(note);
  }
  private command(command: Command): void {
    if (this.commands === NONE) this.commands = [];
    this.commands.push(command);
  }

  private eyeOf(sensor: SensorId | undefined): number {
    return sensor === undefined ? 0 : this.program.eyes.findIndex((eye) => eye.id === sensor);
  }
  private targetOf(label: number | undefined): TargetId | Unknown {
    return label === undefined || label === 0 ? UNKNOWN : this.program.targets[label - 1];
  }

  holds(condition: Parameters<typeof holds>[0]) {
    return holds(condition, this);
  }
  seen(sensor?: SensorId) {
    return this.targetOf(this.draft.eyes[this.eyeOf(sensor)]?.steadied.seen);
  }
  arrived(sensor?: SensorId) {
    return this.arrivals === null ? UNKNOWN : this.targetOf(this.arrivals[this.eyeOf(sensor)]);
  }
  visit(sensor?: SensorId) {
    return this.draft.eyes[this.eyeOf(sensor)]?.steadied.visit ?? 0;
  }
  knownAt(sensor?: SensorId) {
    return this.draft.eyes[this.eyeOf(sensor)]?.knownAt ?? -Infinity;
  }
  feature(feature: Feature, sensor?: SensorId) {
    return this.draft.eyes[this.eyeOf(sensor)]?.features?.[feature] ?? Number.NaN;
  }
  counter(name: string) {
    return this.draft.counters[name] ?? 0;
  }
  paintOf(target: string) {
    return this.program.paints.get(target) ?? "#000000";
  }

  wheels(left: number, right: number) {
    this.command({ kind: "wheels", left, right });
  }
  stop(how: "brake" | "coast") {
    this.command({ kind: "stop", how });
  }
  lamp(lamp: string, colour: string | null, blinkHz: number) {
    this.command({ kind: "lamp", lamp, colour, blinkHz });
  }
  lampsOff() {
    for (const lamp of [MAIN_LAMP, ...this.program.lamps]) this.lamp(lamp, null, 0);
  }
  tone(hertz: number, ms: number) {
    this.command({ kind: "tone", hertz, ms });
  }
  show(text: string) {
    this.command({ kind: "show", text });
  }
  log(text: string) {
    this.note({ t: this.t, kind: "log", text });
  }
  setCounter(name: string, value: number) {
    this.draft.counters = { ...this.draft.counters, [name]: value };
    this.note({ t: this.t, kind: "counter", counter: name, value });
  }
  goTo(mode: ModeId) {
    this.nextMode = mode;
  }
  finish() {
    this.draft.finished = true;
    this.draft.activity = null;
    this.stop("brake");
    this.note({ t: this.t, kind: "finish" });
  }
}
