import { type ModeId, type SensorId, type TargetId, UNKNOWN, type Unknown } from "../names";
import type { Feature, Raw } from "../readings";
import { steadyNext, targetMargin } from "../rules";
import { type Blob, sightsNext, visitOf } from "../vision";
import { holds } from "./conditions";
import {
  type Arm,
  type Command,
  type EngineInput,
  type EngineState,
  type FiredPiece,
  type Frame,
  type Note,
  seenLabel,
  seesLabel,
} from "./engineState";
import { type GateMove, gateMoves, sentTo } from "./gates";
import type { PictureName } from "./pictures";
import { eyeOf, type Program } from "./program";
import type { Response } from "./schema";
import { kindOf, needOf, printStep, type Step } from "./steps";
import { MAIN_LAMP } from "./steps/lamp";
import type { StepScene, WheelTravel } from "./steps/StepKind";
import { answeredBy, type TriggerScene } from "./triggers";

/** Wheels are at rest once their encoders have counted nothing for so long. */
const STILL_MS = 100;
const NEVER: Arm = { spent: Number.NaN, readyAt: -Infinity, held: false };
/** More steps than this in one moment can only be a circle. */
const MOST_STEPS_AT_ONCE = 10_000;
/** A list holds no more than this. */
export const MOST_JOTTED = 1000;
/** Steps of routines within routines, and of replays within replays, are nested no deeper than this. */
export const MOST_NESTED = 128;

/** A target that arrived before a sensor or departed from it, with the number of its visit. */
interface Happening {
  eye: number;
  label: number;
  visit: number;
}

/** Most moments bring nothing: the one empty array of all of them. */
export const NONE: never[] = [];
export type Draft = { -readonly [K in keyof EngineState]: EngineState[K] };

/** The working copy of one moment: what triggers and steps look at and act on. */
export class MomentOf implements StepScene, TriggerScene {
  commands: Command[] = NONE;
  notes: Note[] = NONE;
  /** Whether something else is seen than before the moment. */
  seenAnew = false;
  private arrivals: Happening[] | null = null;
  private departures: Happening[] | null = null;
  /** Frames that the step just begun puts before the ones that follow it. */
  private pushed: Omit<Frame, "outer" | "depth">[] | null = null;
  /** The step beside the others that now acts, or null for the activity's own. */
  private actor: Step | null = null;
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
  /** A copy: what is passed in may go on counting. */
  private travelNow(): WheelTravel {
    const { left, right } = this.input.travel;
    return { left, right };
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

  /** Whether the moment brings anything new to go by. */
  private get brings() {
    return this.input.readings.length > 0 || this.input.blobs !== undefined;
  }

  takeReading(eye: number, raw: Raw): void {
    const { ruleSet, read, labelOf } = this.program.eyes[eye];
    const features = read(raw);
    const label = labelOf(features);
    const before = this.draft.eyes[eye];
    const { state: steadied, events } = steadyNext(before.steadied, label, this.t, ruleSet.steady);
    const knownAt = steadied.seen !== 0 || events.departs !== 0 ? this.t : before.knownAt;
    if (steadied.seen !== before.steadied.seen) this.seenAnew = true;
    const eyes = this.draft.eyes.slice();
    const leaves = events.departs !== 0 && before.departed !== before.steadied.visit;
    const departed = leaves ? before.steadied.visit : before.departed;
    const { blobs, sights } = before;
    let { ways, visitWay, lastWay } = before;
    if (this.program.belt !== undefined && steadied !== before.steadied) {
      ways = [this.input.travel.left, ...ways].slice(0, steadied.recent.length);
      if (events.arrives !== 0) {
        lastWay = visitWay;
        visitWay = ways[steadied.recent.lastIndexOf(label, ruleSet.steady.of - 1)];
      }
    }
    eyes[eye] = { features, label, steadied, knownAt, departed, blobs, sights, ways, visitWay, lastWay };
    this.draft.eyes = eyes;
    // Where it rejoins its visit it departs a second time, which is told once.
    if (events.departs !== 0) this.departs(eye, events.departs, before.steadied.visit, leaves);
    if (events.arrives !== 0) this.arrives(eye, events.arrives, steadied.visit);
  }

  /** Takes in the largest blob of each target in a camera's frame; each target is steadied by itself. */
  takeBlobs(eye: number, blobs: ReadonlyMap<TargetId, Blob>): void {
    const { ruleSet } = this.program.eyes[eye];
    const { targets } = this.program;
    const before = this.draft.eyes[eye];
    if (before.sights === null) return;
    const has = (label: number) => blobs.has(targets[label - 1]);
    const { sights, arrives, departs } = sightsNext(before.sights, has, this.t, ruleSet.steady);
    const known = { ...before, blobs, sights };
    if (departs.length > 0 || seenLabel(known) !== 0) known.knownAt = this.t;
    this.draft.eyes = this.draft.eyes.map((own, i) => (i === eye ? known : own));
    for (const { label, visit, told } of departs) this.departs(eye, label, visit, told);
    for (const { label, visit } of arrives) this.arrives(eye, label, visit);
  }

  private departs(eye: number, label: number, visit: number, told: boolean): void {
    this.departures ??= [];
    this.departures.push({ eye, label, visit });
    const { eyes, targets } = this.program;
    if (told) this.note({ t: this.t, kind: "departs", sensor: eyes[eye].id, target: targets[label - 1] });
  }

  private arrives(eye: number, label: number, visit: number): void {
    this.arrivals ??= [];
    this.arrivals.push({ eye, label, visit });
    const { eyes, targets } = this.program;
    this.note({ t: this.t, kind: "arrives", sensor: eyes[eye].id, target: targets[label - 1] });
  }

  /** The first response in the mode's order whose trigger holds and that is armed starts, if it may. */
  respond(): void {
    let taken = false;
    const quiet = this.arrivals === null && this.departures === null;
    const responses = this.program.modes.get(this.draft.mode)?.responses ?? NONE;
    for (let i = 0; i < responses.length; i++) {
      const { response, judge } = responses[i];
      if (quiet && judge.byEvents) continue;
      const episode = judge.episode(response.when, this);
      const edge = judge.onEdge;
      if (episode === undefined && !edge) {
        // What held and holds no longer is another occasion when it holds again.
        if (judge.renews && this.draft.arms[response.id]?.spent === 1) this.setArm(response, { spent: Number.NaN });
        continue;
      }
      const known = this.draft.arms[response.id];
      const arm = known ?? NEVER;
      const fresh = known === undefined;
      if (edge && (fresh || arm.held !== (episode !== undefined)))
        this.setArm(response, { held: episode !== undefined });
      if (episode === undefined || (edge && (fresh || arm.held))) continue;
      const oncePerVisit = response.fires === "once per visit";
      if (oncePerVisit && !edge && arm.spent === episode) continue;
      if (!oncePerVisit && (this.t < arm.readyAt || this.draft.activity?.response?.id === response.id)) continue;
      if (response.guard !== undefined && !holds(response.guard, this)) continue;
      if (taken || (this.draft.activity !== null && response.busy === "let it finish")) {
        // A trigger that holds while another runs is let go; one that fires while present, and a time that has come,
        // will still hold later.
        if (oncePerVisit && !judge.staysDue) {
          this.setArm(response, { spent: episode });
          this.note({ t: this.t, kind: "dropped", response: response.id, mode: this.draft.mode });
        }
        continue;
      }
      taken = true;
      this.setArm(response, { spent: episode, readyAt: this.t + (response.restMs ?? 0) });
      const by = judge.firedBy?.(response.when, this);
      this.note({
        t: this.t,
        kind: "fires",
        response: response.id,
        mode: this.draft.mode,
        ...(by && { target: by.target, sensor: this.program.eyes[this.eyeOf(by.sensor)].id }),
      });
      const piece = by === undefined ? null : this.pieceOf(by);
      const frame = { steps: response.steps, index: 0, again: 0, target: by?.target ?? null, piece };
      this.draft.activity = { response, frame: { ...frame, depth: 1, outer: null }, begun: null };
    }
  }

  /** The piece that a response fired for: of the visit that its sensor has now, or of the one that just ended. */
  private pieceOf(by: { target: TargetId; sensor?: SensorId }): FiredPiece | null {
    const eye = this.eyeOf(by.sensor);
    const { steadied, sights, visitWay, lastWay } = this.draft.eyes[eye];
    // A camera does not say where along the belt a piece lies.
    if (this.program.belt === undefined || sights !== null) return null;
    const arrived = this.arrivals?.some((arrival) => arrival.eye === eye) ?? false;
    const before = arrived && this.targetOf(steadied.seen) !== by.target;
    return { eye, way: before ? lastWay : visitWay, t: this.t };
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
    const frame = { steps: entering, index: 0, again: 0, target: null, piece: null, depth: 1, outer: null };
    this.draft.activity = { response: null, frame, begun: null };
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
      const { response, frame, begun } = this.draft.activity;
      const step = frame.steps[frame.index];
      if (step === undefined && (frame.again > 0 || frame.outer !== null)) {
        const next = frame.again > 0 ? { ...frame, index: 0, again: frame.again - 1 } : (frame.outer as Frame);
        this.draft.activity = { response, frame: next, begun: null };
        continue;
      }
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
        since = { t: this.t, travel: this.travelNow() };
        this.note({ t: this.t, kind: "step", phrase: printStep(step) });
        const need = needOf(step);
        if (need !== undefined && !this.program.can.has(need)) {
          this.note({ t: this.t, kind: "trouble", text: "this robot cannot do that; the step was skipped" });
          this.draft.activity = { response, frame: { ...frame, index: frame.index + 1 }, begun: null };
          continue;
        }
        if (!kind.endless?.(step)) kind.begin(step, this, since);
        if (this.draft.finished) return;
        if (this.nextMode !== null) {
          const mode = this.nextMode;
          this.nextMode = null;
          this.enter(mode);
          continue;
        }
      }
      if (kind.endless?.(step)) this.beside(step);
      else if (begun === null || this.brings) kind.during?.(step, this, since);
      if (kind.ended !== undefined && !kind.endless?.(step) && !kind.ended(step, this, since)) {
        this.draft.activity = begun === null ? { ...this.draft.activity, begun: since } : this.draft.activity;
        return;
      }
      if (!kind.endless?.(step)) kind.end?.(step, this);
      let next: Frame = { ...frame, index: frame.index + 1 };
      if (this.pushed !== null && frame.depth >= MOST_NESTED) {
        this.note({ t: this.t, kind: "trouble", text: "steps are nested too deeply" });
        this.finish();
        return;
      }
      const depth = frame.depth + 1;
      for (const pushed of (this.pushed ?? NONE).toReversed()) next = { ...pushed, depth, outer: next };
      this.pushed = null;
      this.draft.activity = { response, frame: next, begun: null };
    }
  }

  /** Carries on the steps that run beside the activity. */
  carryOnBeside(): void {
    if (this.draft.besides.length === 0) return;
    for (const beside of this.draft.besides) {
      // What steers has nothing new to go by until the next reading.
      if (!this.brings && beside.begun.t < this.t && kindOf(beside.step).endless?.(beside.step)) continue;
      // One before it in the list may have taken its output.
      if (!this.draft.besides.some((b) => b.step === beside.step)) continue;
      const kind = kindOf(beside.step);
      this.as(beside.step, () => {
        kind.during?.(beside.step, this, beside.begun);
        if (kind.endless?.(beside.step)) return;
        if (kind.ended !== undefined && !kind.ended(beside.step, this, beside.begun)) return;
        kind.end?.(beside.step, this);
        this.draft.besides = this.draft.besides.filter((b) => b.step !== beside.step);
      });
    }
  }

  private as(actor: Step, act: () => void): void {
    const before = this.actor;
    this.actor = actor;
    act();
    this.actor = before;
  }

  // Most moments bring neither notes nor commands, so the arrays are made with their first entry.
  private note(note: Note): void {
    if (this.notes === NONE) this.notes = [];
    this.notes.push(note);
  }
  private command(output: string, command: Command): void {
    if (this.commands === NONE) this.commands = [];
    this.commands.push(command);
    this.own(output);
  }
  /** An output has one owner, the latest: whatever else had it beside ends without a last word. */
  private own(output: string): void {
    const { actor } = this;
    const { besides } = this.draft;
    if (!besides.some((b) => (b.step === actor) !== b.outputs.includes(output))) return;
    this.draft.besides = this.draft.besides.flatMap((beside) => {
      if (beside.step !== actor) return beside.outputs.includes(output) ? [] : [beside];
      return [beside.outputs.includes(output) ? beside : { ...beside, outputs: [...beside.outputs, output] }];
    });
  }

  private eyeOf(sensor: SensorId | undefined): number {
    return eyeOf(this.program.eyes, sensor);
  }
  private targetOf(label: number | undefined): TargetId | Unknown {
    return label === undefined || label === 0 ? UNKNOWN : this.program.targets[label - 1];
  }

  holds(condition: Parameters<typeof holds>[0]) {
    return holds(condition, this);
  }
  seen(sensor?: SensorId) {
    const eye = this.draft.eyes[this.eyeOf(sensor)];
    return this.targetOf(eye === undefined ? 0 : seenLabel(eye));
  }
  seenName() {
    const target = this.seen();
    return this.program.names.get(target) ?? target;
  }
  sees(target: TargetId | Unknown, sensor?: SensorId) {
    const eye = this.draft.eyes[this.eyeOf(sensor)];
    if (eye === undefined || target === UNKNOWN || eye.sights === null) return this.seen(sensor) === target;
    return seesLabel(eye, this.program.targets.indexOf(target) + 1);
  }
  arrived(targets: readonly TargetId[], sensor?: SensorId) {
    return this.happened(this.arrivals, targets, sensor)?.target;
  }
  departed(targets: readonly TargetId[], sensor?: SensorId) {
    return this.happened(this.departures, targets, sensor)?.target;
  }
  endedVisit(target: TargetId, sensor?: SensorId) {
    return this.happened(this.departures, [target], sensor)?.visit ?? 0;
  }
  /** The first of what happened to some targets before a sensor. */
  private happened(all: readonly Happening[] | null, targets: readonly TargetId[], sensor: SensorId | undefined) {
    if (all === null) return undefined;
    const wanted = this.eyeOf(sensor);
    for (const { eye, label, visit } of all) {
      const target = this.program.targets[label - 1];
      if (eye === wanted && targets.includes(target)) return { target, visit };
    }
    return undefined;
  }
  visit(target: TargetId, sensor?: SensorId) {
    const eye = this.draft.eyes[this.eyeOf(sensor)];
    if (eye === undefined) return 0;
    const label = this.program.targets.indexOf(target) + 1;
    const sight = eye.sights?.[label - 1];
    return sight === undefined ? eye.steadied.visit : visitOf(sight.steadied, label);
  }
  knownAt(sensor?: SensorId) {
    return this.draft.eyes[this.eyeOf(sensor)]?.knownAt ?? -Infinity;
  }
  feature(feature: Feature, sensor?: SensorId) {
    const eye = sensor === undefined ? (this.program.reporting.get(feature) ?? -1) : this.eyeOf(sensor);
    return this.draft.eyes[eye]?.features?.[feature] ?? Number.NaN;
  }
  counter(name: string) {
    return this.draft.counters[name] ?? 0;
  }
  length(list: string) {
    return this.draft.lists[list]?.length ?? 0;
  }
  pressed(button: string) {
    return this.input.pressed?.includes(button) ?? false;
  }
  still() {
    return this.t - this.draft.turned.at >= STILL_MS;
  }
  blob(target: TargetId, sensor?: SensorId) {
    const eyes = sensor === undefined ? this.draft.eyes : [this.draft.eyes[this.eyeOf(sensor)]];
    return eyes.find((eye) => eye?.blobs)?.blobs?.get(target);
  }
  clarity(target: TargetId, sensor?: SensorId) {
    const eye = this.eyeOf(sensor);
    const features = this.draft.eyes[eye]?.features;
    return features ? targetMargin(this.program.eyes[eye].ruleSet, features, target) : Number.NaN;
  }
  servoAt(servo: string) {
    return this.draft.servos[servo] ?? 0;
  }
  servoReaches(servo: string, degrees: number) {
    const [from, to] = this.program.servoRanges.get(servo) ?? [degrees, degrees];
    return Math.max(from, Math.min(to, degrees));
  }
  paintOf(target: string) {
    return this.program.paints.get(target) ?? "#000000";
  }

  wheels(left: number, right: number) {
    const now = this.draft.wheels;
    // A step that steers says so again only when it changes.
    if (now !== null && now.left === left && now.right === right) return this.own("wheels");
    this.draft.wheels = { left, right };
    this.command("wheels", { kind: "wheels", left, right });
  }
  stop(how: "brake" | "coast") {
    this.draft.wheels = null;
    this.command("wheels", { kind: "stop", how });
  }
  lamp(lamp: string, colour: string | null, blinkHz: number) {
    this.command(`lamp ${lamp}`, { kind: "lamp", lamp, colour, blinkHz });
  }
  lampsOff() {
    for (const lamp of [MAIN_LAMP, ...this.program.lamps]) this.lamp(lamp, null, 0);
  }
  tone(hertz: number, ms: number) {
    this.command("sounder", { kind: "tone", hertz, ms });
  }
  tune(tones: readonly { hertz: number; ms: number }[]) {
    this.command("sounder", { kind: "tune", tones });
  }
  say(text: string) {
    this.command("sounder", { kind: "say", text });
  }
  show(text: string) {
    this.command("display", { kind: "show", text });
  }
  showPicture(picture: PictureName) {
    this.command("display", { kind: "picture", picture });
  }
  servo(servo: string, degrees: number, degreesPerSecond: number) {
    this.draft.servos = { ...this.draft.servos, [servo]: degrees };
    this.command(`servo ${servo}`, { kind: "servo", servo, degrees, degreesPerSecond });
  }
  gate(gate: string, open: boolean) {
    const { activity } = this.draft;
    this.move({ gate, open, response: activity?.response?.id ?? null, fired: activity?.frame.piece?.t ?? null });
  }
  private move(moved: GateMove) {
    const { gate, open } = moved;
    if ((this.draft.gates[gate] ?? false) === open) return;
    this.draft.gates = { ...this.draft.gates, [gate]: open };
    this.command(`gate ${gate}`, { kind: "gate", gate, open });
    this.note({ t: this.t, kind: "gate", ...moved });
  }
  send(crate: string) {
    const sent = sentTo(this.program, this.draft, crate);
    if (typeof sent === "string") this.note({ t: this.t, kind: "trouble", text: sent });
    else if (sent !== undefined) this.draft.sent = [...this.draft.sent, sent];
  }
  /** Opens and closes gates for what was sent, by how far the belt has gone. */
  moveGates(): void {
    if (this.draft.sent.length === 0) return;
    const { moves, sent } = gateMoves(this.program, this.draft, this.input.travel.left);
    if (moves.length === 0 && sent.length === this.draft.sent.length) return;
    this.draft.sent = sent;
    for (const move of moves) this.move(move);
  }
  log(text: string) {
    this.note({ t: this.t, kind: "log", text });
  }
  setCounter(name: string, value: number) {
    this.draft.counters = { ...this.draft.counters, [name]: value };
    this.note({ t: this.t, kind: "counter", counter: name, value });
  }
  jot(list: string) {
    const target = this.draft.activity?.frame.target;
    if (!target)
      return this.note({ t: this.t, kind: "trouble", text: `no target fired that could be jotted to ${list}` });
    const targets = [...(this.draft.lists[list] ?? NONE), target];
    if (targets.length > MOST_JOTTED)
      return this.note({ t: this.t, kind: "trouble", text: `${list} is full: it holds ${MOST_JOTTED}` });
    this.draft.lists = { ...this.draft.lists, [list]: targets };
    this.note({ t: this.t, kind: "list", list, targets });
  }
  do(routine: string, times: number) {
    const steps = this.program.routines.get(routine) ?? NONE;
    const { target = null, piece = null } = this.draft.activity?.frame ?? {};
    this.pushed = [{ steps, index: 0, again: times - 1, target, piece }];
  }
  replay(list: string, mode: ModeId) {
    const responses = this.program.modes.get(mode)?.responses ?? NONE;
    this.pushed = (this.draft.lists[list] ?? NONE).flatMap((target) => {
      const found = responses.find(
        ({ response: { when }, judge }) => judge.byEvents && answeredBy(when).some((by) => by.target === target),
      );
      if (found) return [{ steps: found.response.steps, index: 0, again: 0, target, piece: null }];
      this.note({ t: this.t, kind: "trouble", text: `${mode} has no response to ${target}, which ${list} holds` });
      return [];
    });
  }
  beside(step: { step: string }) {
    const begun = { t: this.t, travel: this.travelNow() };
    const own = { ...step } as Step;
    this.draft.besides = [...this.draft.besides, { step: own, begun, outputs: NONE }];
    const kind = kindOf(own);
    this.as(own, () => {
      kind.begin(own, this, begun);
      if (kind.owns !== undefined && kind.endless?.(own)) this.own(kind.owns);
    });
  }
  goTo(mode: ModeId) {
    this.nextMode = mode;
  }
  finish() {
    this.draft.finished = true;
    this.draft.activity = null;
    this.draft.besides = NONE;
    this.stop("brake");
    this.note({ t: this.t, kind: "finish" });
  }
}
