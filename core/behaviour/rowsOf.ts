import { type SensorId, type TargetId, UNKNOWN, type Unknown } from "../names";
import { FEATURE_FACTS, FEATURES, type Feature, isCamera, REPORT_KINDS } from "../readings";
import { type Steady, steadyingOf, targetMargin } from "../rules";
import { CONDITIONS, type Condition, conditionRows } from "./conditions";
import type { ConditionAct, Engine, KindRows, StepActs, TriggerAct } from "./engine/Engine";
import { findParts } from "./engine/moment";
import { ARGS, DONE, END, FINISHES, MODE, ONLY_IF, ROUTINE, Rows, STAYS, WHEN } from "./engine/rows";
import type { Machine } from "./Machine";
import type { ProgramEye } from "./ProgramEye";
import type { Acts, Ask, Row, RowMaker } from "./rowKinds";
import type { Behaviour, Mode, Response } from "./schema";
import { kindOf, needOf, type Step } from "./steps";
import { cannot } from "./steps/cannot";
import { MAIN_LAMP } from "./steps/lamp";
import { type Trigger, triggerKindOf } from "./triggers";

/** The source of rows: the machine with its sensors, and the project's names. */
export interface Named {
  machine: Machine;
  eyes: readonly ProgramEye[];
  targets: readonly { id: TargetId; name: string; paint: string }[];
  behaviour: Behaviour;
  /** The modes with those of their responses that are on. */
  modes: readonly { mode: Mode; responses: readonly Response[] }[];
}

/** The place of one among all; one that is not there yet is put behind them. */
function placeIn(all: string[], one: string): number {
  const at = all.indexOf(one);
  return at < 0 ? all.push(one) - 1 : at;
}

/** Writes a behaviour as rows, and keeps what each number stands for. */
export class RowWriter implements RowMaker {
  readonly lamps: string[];
  readonly servos: string[];
  readonly gates: string[];
  readonly crates: string[];
  readonly counters: string[];
  readonly lists: string[];
  readonly buttons: string[];
  readonly texts: string[] = [];
  readonly responses: readonly Response[];
  /** Each step by the place of its row. */
  readonly stepAt = new Map<number, Step>();
  private readonly steps: StepActs[] = [ENDED];
  private readonly triggers: TriggerAct[] = [];
  private readonly conditions: ConditionAct[] = [() => false];
  /** The number of each kind of row, by what it is of and its name: `step drive`. */
  readonly numbers = new Map<string, number>();
  /** The number of rows of each condition. */
  readonly conditionSizes: number[] = [];
  /** Features of sensors that rows go by, and sensors of which they ask how clearly a target is read. */
  readonly featuresAsked = new Map<string, { eye: number; feature: Feature }>();
  readonly claritiesAsked = new Map<string, { eye: number; target: TargetId }>();

  constructor(private readonly named: Named) {
    const { machine, behaviour } = named;
    this.lamps = [MAIN_LAMP, ...machine.lamps];
    this.servos = machine.servos.map(({ id }) => id);
    this.gates = (machine.belt?.gates ?? []).map(({ id }) => id);
    this.crates = [...new Set((machine.belt?.gates ?? []).map(({ crate }) => crate))];
    this.counters = [...behaviour.counters];
    this.lists = [...behaviour.lists];
    this.buttons = [...machine.buttons];
    this.responses = named.modes.flatMap(({ responses }) => responses);
  }

  label(target: TargetId | Unknown): number {
    return target === UNKNOWN ? 0 : this.named.targets.findIndex(({ id }) => id === target) + 1;
  }
  eye(sensor?: SensorId): number {
    return sensor === undefined ? 0 : this.named.eyes.findIndex(({ id }) => id === sensor);
  }
  camera(sensor?: SensorId): number {
    return sensor === undefined ? ANY_CAMERA : this.eye(sensor);
  }
  feature(feature: Feature): number {
    return FEATURES.indexOf(feature);
  }
  reporting(feature: Feature, sensor?: SensorId): number {
    const reports = ({ sensor: { reports } }: ProgramEye) => REPORT_KINDS[reports].features.includes(feature);
    const eye =
      sensor !== undefined
        ? this.eye(sensor)
        : this.named.eyes.findIndex((own) => !isCamera(own.sensor) && reports(own));
    this.featuresAsked.set(`${eye} ${feature}`, { eye, feature });
    return eye;
  }
  clear(target: TargetId, sensor?: SensorId): number {
    const eye = this.eye(sensor);
    this.claritiesAsked.set(`${eye} ${target}`, { eye, target });
    return eye;
  }
  counter(name: string): number {
    return placeIn(this.counters, name);
  }
  list(name: string): number {
    return placeIn(this.lists, name);
  }
  button(name: string): number {
    return placeIn(this.buttons, name);
  }
  mode(id: string): number {
    return this.named.modes.findIndex(({ mode }) => mode.id === id);
  }
  routine(routine: string): number {
    return this.named.behaviour.routines.findIndex(({ id }) => id === routine);
  }
  lamp(lamp: string): number {
    return placeIn(this.lamps, lamp);
  }
  servo(servo: string): number {
    return placeIn(this.servos, servo);
  }
  gate(gate: string): number {
    return placeIn(this.gates, gate);
  }
  crate(crate: string): number {
    const { belt } = this.named.machine;
    return belt === undefined || crate === belt.end ? -1 : placeIn(this.crates, crate);
  }
  text(text: string): number {
    return placeIn(this.texts, text);
  }
  colour(colour: string): number {
    if (colour === "off") return -1;
    const paint = colour.startsWith("#") ? colour : this.named.targets.find(({ id }) => id === colour)?.paint;
    return Number.parseInt((paint ?? "#000000").slice(1), 16);
  }

  /** The number of a kind of row; one that was not used yet gets the next, and its functions. */
  private numberOf(kind: string, act: string, add: () => number): number {
    const key = `${kind} ${act}`;
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const number = add() - 1;
    this.numbers.set(key, number);
    return number;
  }

  private cells(number: number, { args, numbers = [], conditions, step }: Row): number[] {
    const behind = [
      ...numbers,
      ...(conditions === undefined ? [] : this.conditionCells(conditions)),
      ...(step === undefined ? [] : this.stepCells(step as Step)),
    ];
    return [number, ARGS + args.length + behind.length, ...args, ...behind];
  }

  private conditionCells(condition: Condition): number[] {
    const rows = conditionRows(condition, this);
    this.conditionSizes.push(rows.length);
    const cells = rows.flatMap((row) => {
      const ask = CONDITIONS.entries.find(({ asks }) => row.act in asks)?.asks[row.act] as Ask;
      const number = this.numberOf("condition", row.act, () => this.conditions.push(called(ask.ask, ask.takes.length)));
      return this.cells(number, row);
    });
    return [...cells, END, ARGS];
  }

  /** The cells of a step; what has no end of its own runs beside the steps that follow. */
  private stepCells(step: Step): number[] {
    const kind = kindOf(step);
    const row = kind.row(step, this);
    return this.actCells(row, kind.acts[row.act]);
  }

  private actCells(row: Row, acts: Acts): number[] {
    const number = this.numberOf("step", row.act, () => this.steps.push(actsOf(acts)));
    return this.cells(number, row);
  }

  /** Steps in a row, each under the place that it gets. */
  private sequence(steps: readonly Step[], from: number): number[] {
    const all: number[] = [];
    for (const step of steps) {
      this.stepAt.set(from + all.length, step);
      const need = needOf(step);
      const kind = kindOf(step);
      if (need !== undefined && !this.named.machine.can.includes(need))
        all.push(...this.actCells({ act: "cannot", args: [] }, cannot.acts.cannot));
      else if (kind.endless?.(step)) all.push(...this.stepCells({ step: "meanwhile", does: step } as Step));
      else all.push(...this.stepCells(step));
    }
    return [...all, END, ARGS];
  }

  private triggerCells(trigger: Trigger): number[] {
    const kind = triggerKindOf(trigger);
    const row = kind.row(trigger, this);
    const add = () => this.triggers.push(called(kind.judge.when, kind.judge.takes.length));
    const number = this.numberOf("trigger", row.act, add);
    return this.cells(number, row);
  }

  /** The functions of the kinds that were used: also of those to come. */
  get kinds(): KindRows {
    const { steps, triggers, conditions } = this;
    return { steps, triggers, conditions };
  }

  /** The whole behaviour. */
  rows(): Rows {
    const { named } = this;
    const all: number[] = [];
    const put = (cells: readonly number[]) => {
      for (const cell of cells) all.push(cell);
    };
    for (const { mode, responses } of named.modes) {
      put([MODE, ARGS]);
      put(this.sequence(mode.entering, all.length));
      for (const { when, guard, then, fires, busy, restMs = 0, steps } of responses) {
        const leads = then === undefined ? STAYS : then === "finish" ? FINISHES : this.mode(then);
        put([WHEN, ARGS + 4, fires === "once per visit" ? 1 : 0, busy === "let it finish" ? 1 : 0, restMs, leads]);
        put(this.triggerCells(when));
        if (guard !== undefined) {
          const cells = this.conditionCells(guard);
          put([ONLY_IF, ARGS + cells.length, ...cells]);
        }
        put(this.sequence(steps, all.length));
      }
    }
    for (const { steps } of named.behaviour.routines) {
      put([ROUTINE, ARGS]);
      put(this.sequence(steps, all.length));
    }
    put([DONE, ARGS]);
    const rows = this.made(all);
    findParts(rows);
    this.responses.forEach(({ when }, r) => {
      const kind = triggerKindOf(when);
      rows.byEvents[r] = kind.byEvents ? 1 : 0;
      rows.onEdge[r] = kind.onEdge ? 1 : 0;
      rows.renews[r] = kind.renews ? 1 : 0;
      rows.staysDue[r] = kind.staysDue ? 1 : 0;
      rows.answersArrivals[r] = kind.byEvents && kind.answers !== undefined ? 1 : 0;
    });
    return rows;
  }

  /** A condition by itself, from the first cell on. */
  rowsOf(condition: Condition): Rows {
    return this.made(this.conditionCells(condition));
  }

  private made(cells: readonly number[]): Rows {
    const { named, texts, counters } = this;
    const { modes, behaviour, targets, eyes } = named;
    const cameras = eyes.flatMap(({ sensor }, i) => (isCamera(sensor) ? [i] : []));
    const steadies: Steady[] = [
      ...eyes.map(({ ruleSet }) => ruleSet.steady),
      ...cameras.flatMap((eye) => targets.map(() => eyes[eye].ruleSet.steady)),
    ];
    return new Rows(
      Float64Array.from(cells),
      modes.length,
      this.responses.length,
      behaviour.routines.length,
      this.machineRows(cameras, steadies.length),
      {
        texts,
        words: ["unknown", ...targets.map(({ name }) => name)],
        counterNames: counters.map((name) => `${name} `),
        featureNames: FEATURES.map((feature) => `${feature} `),
        unknownNames: FEATURES.map((feature) => `${feature} ${UNKNOWN}`),
        units: UNITS.map((unit) => (unit === "%" ? " %" : unit)),
        inPercent: Int32Array.from(UNITS, (unit) => (unit === "%" ? 1 : 0)),
        goesRound: Int32Array.from(UNITS, (unit) => (unit === "°" ? 1 : 0)),
      },
      steadyingOf(steadies),
      (eye, features, label) => targetMargin(eyes[eye].ruleSet, features, targets[label - 1].id),
    );
  }

  private machineRows(cameras: readonly number[], places: number): Rows["machine"] {
    const { machine, eyes, targets, behaviour, modes } = this.named;
    const { belt } = machine;
    const servos = this.servos.map((id) => machine.servos.find((servo) => servo.id === id));
    const gates = this.gates.map((id) => belt?.gates.find((gate) => gate.id === id));
    return {
      start: Math.max(
        0,
        modes.findIndex(({ mode }) => mode.id === behaviour.start),
      ),
      eyes: eyes.length,
      events: Math.max(8, 2 * places),
      targets: targets.length,
      sightsAt: Int32Array.from(eyes, ({ sensor }, i) =>
        isCamera(sensor) ? eyes.length + cameras.indexOf(i) * targets.length : -1,
      ),
      hasBesides: this.numbers.has("step meanwhile"),
      hasPushes: this.numbers.has("step do") || this.numbers.has("step replay"),
      hasReplays: this.numbers.has("step replay"),
      // A routine does not reach itself; a replay may be within what it replays.
      mostNested: this.numbers.has("step replay") ? MOST_NESTED : 1 + behaviour.routines.length,
      // Each output has one owner; what steers has none before its first moment.
      besides: 2 + this.lamps.length + servos.length + 8,
      ownLamps: 1 + machine.lamps.length,
      lamps: this.lamps.length,
      servoAt: Float64Array.from(servos, (servo) => servo?.at ?? 0),
      servoFrom: Float64Array.from(servos, (servo) => (servo ? Math.min(servo.from, servo.to) : -Infinity)),
      servoTo: Float64Array.from(servos, (servo) => (servo ? Math.max(servo.from, servo.to) : Infinity)),
      buttons: this.buttons.length,
      counters: this.counters.length,
      lists: this.lists.length,
      trackMm: machine.wheels?.trackMm ?? 1,
      wheelMm: machine.wheels?.wheelMm ?? 1,
      topSpeed: machine.topSpeed,
      countsTurns: this.numbers.has("condition still"),
      hasBelt: belt !== undefined,
      gates: gates.length,
      gateCrate: Int32Array.from(gates, (gate) => (gate ? this.crates.indexOf(gate.crate) : -1)),
      gateAt: Float64Array.from(gates, (gate) => gate?.atMm ?? -Infinity),
      gateReach: Float64Array.from(gates, (gate) => gate?.reachMm ?? 0),
      gateTravelMs: Float64Array.from(gates, (gate) => gate?.travelMs ?? 0),
      looksAt: Float64Array.from(eyes, (_, i) => belt?.looksAt[i] ?? 0),
      spotMm: Float64Array.from(eyes, ({ sensor }) => sensor.optics.spotMm),
      periodMs: Float64Array.from(eyes, ({ sensor }) => sensor.periodMs),
    };
  }
}

/** The sign behind each feature's figure. */
const UNITS = FEATURES.map((feature) => FEATURE_FACTS[feature].unit);

/** Replays within replays are nested no deeper than this. */
const MOST_NESTED = 128;

/** Any camera: the first of which a frame has come. */
const ANY_CAMERA = -2;

const ENDED: StepActs = { begin: null, during: null, ended: null, end: null, isEndless: false };

const actsOf = ({ takes, begin, during, ended, end, isEndless }: Acts): StepActs => ({
  begin: begin ? called(begin, takes.length) : null,
  during: during ? called(during, takes.length) : null,
  ended: ended ? called(ended, takes.length) : null,
  end: end ? called(end, takes.length) : null,
  isEndless: isEndless === true,
});

const cell = (e: Engine, at: number, k: number): number => e.p.rows[at + ARGS + k];
const place = (_: Engine, at: number, k: number): number => at + ARGS + k;

/** A function of its own arguments as one of a row: it is given the cells, and behind them the place of what follows. */
function called<R>(fn: (e: Engine, ...args: number[]) => R, takes: number): (e: Engine, at: number) => R {
  const wants = fn.length - 1;
  const last = wants > takes ? place : cell;
  switch (wants) {
    case -1:
    case 0:
      return (e) => fn(e);
    case 1:
      return (e, at) => fn(e, last(e, at, 0));
    case 2:
      return (e, at) => fn(e, cell(e, at, 0), last(e, at, 1));
    case 3:
      return (e, at) => fn(e, cell(e, at, 0), cell(e, at, 1), last(e, at, 2));
    case 4:
      return (e, at) => fn(e, cell(e, at, 0), cell(e, at, 1), cell(e, at, 2), last(e, at, 3));
    case 5:
      return (e, at) => fn(e, cell(e, at, 0), cell(e, at, 1), cell(e, at, 2), cell(e, at, 3), last(e, at, 4));
    default:
      return (e, at) => {
        const args = Array.from({ length: wants - 1 }, (_, k) => cell(e, at, k));
        return fn(e, ...args, last(e, at, wants - 1));
      };
  }
}
