import { type SensorId, type TargetId, UNKNOWN, type Unknown } from "../names";
import { FEATURE_FACTS, FEATURES, type Feature, isCamera, REPORT_KINDS } from "../readings";
import { clarityOf, type Steady, steadyingOf } from "../rules";
import { CONDITIONS, type Condition, conditionRows } from "./conditions";
import type { ConditionAct, KindRows, StepActs, TriggerAct } from "./engine/Engine";
import { findParts } from "./engine/moment";
import { ARGS, DONE, END, FINISHES, MODE, ONLY_IF, ROUTINE, Rows, STAYS, type TriggerRows, WHEN } from "./engine/rows";
import type { Given } from "./given";
import type { Machine } from "./Machine";
import { MAIN_LAMP } from "./outputs";
import type { ProgramEye } from "./ProgramEye";
import { DoneRoutines } from "./routines";
import { actsOf, called, ENDED } from "./rowFns";
import { cellsOf, conditionCells, type PartItem, type RowItem, type StepItem } from "./rowItems";
import type { Acts, Ask, Row, RowMaker } from "./rowKinds";
import type { Behaviour, Mode, Response } from "./schema";
import { kindOf, needOf, type Step } from "./steps";
import { cannot } from "./steps/cannot";
import { TRIGGERS, type Trigger, type TriggerKind, triggerKindOf } from "./triggers";

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
  /** Routines as they are done somewhere. */
  private readonly done: DoneRoutines;
  /** Modes, responses and routines as rows that are not numbers yet. */
  parts: readonly PartItem[] = [];
  /** The number of rows of each condition. */
  readonly conditionSizes: number[] = [];
  /** Features of sensors that rows go by, and sensors of which they ask how clearly a target is read. */
  readonly featuresAsked = new Map<string, { eye: number; feature: Feature }>();
  readonly claritiesAsked = new Map<string, { eye: number; target: TargetId }>();

  private readonly clarities: readonly ReturnType<typeof clarityOf>[];

  constructor(private readonly named: Named) {
    const { machine, behaviour } = named;
    this.clarities = named.eyes.map(({ ruleSet }) => clarityOf(ruleSet));
    this.done = new DoneRoutines(behaviour);
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
    const reports = ({ sensor: { reports } }: ProgramEye) => REPORT_KINDS.get(reports).features.includes(feature);
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
  routine(routine: string, given?: readonly Given[]): number {
    return this.done.place(routine, given);
  }
  lamp(lamp: string): number {
    return placeIn(this.lamps, lamp);
  }
  servo(servo: string): number {
    return placeIn(this.servos, servo);
  }
  angle(servo: string, share: number): number {
    const { from, to } = this.named.machine.servos.find(({ id }) => id === servo) ?? { from: 0, to: 360 };
    const [low, high] = [Math.min(from, to), Math.max(from, to)];
    return low + share * (high - low);
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

  private item(of: RowItem["of"], number: number, takes: readonly string[], row: Row): RowItem {
    const { act, args, numbers = [], parts = 0, conditions, step } = row;
    return {
      ...{ of, act, number, takes, args, numbers, parts },
      ...(conditions !== undefined && { conditions: this.conditionItems(conditions) }),
      ...(step !== undefined && { step: this.stepItem(step as Step) }),
    };
  }

  private conditionItems(condition: Condition): RowItem[] {
    const rows = conditionRows(condition, this);
    this.conditionSizes.push(rows.length);
    return rows.map((row) => {
      const ask = CONDITIONS.entries.find(({ asks }) => row.act in asks)?.asks[row.act] as Ask;
      const number = this.numberOf("condition", row.act, () => this.conditions.push(called(ask.ask, ask.takes.length)));
      return this.item("condition", number, ask.takes, row);
    });
  }

  /** A step as a row; what has no end of its own runs beside the steps that follow. */
  private stepItem(step: Step): RowItem {
    const kind = kindOf(step);
    const row = kind.row(step, this);
    return this.actItem(row, kind.acts[row.act]);
  }

  private actItem(row: Row, acts: Acts): RowItem {
    const number = this.numberOf("step", row.act, () => this.steps.push(actsOf(acts)));
    return this.item("step", number, acts.takes, row);
  }

  private stepItems(steps: readonly Step[]): StepItem[] {
    return steps.map((step) => {
      const need = needOf(step);
      if (need !== undefined && !this.named.machine.can.includes(need))
        return { step, row: this.actItem({ act: "cannot", args: [] }, cannot.acts.cannot) };
      const endless = kindOf(step).endless?.(step);
      return { step, row: this.stepItem(endless ? ({ step: "meanwhile", does: step } as Step) : step) };
    });
  }

  private triggerItem(trigger: Trigger): RowItem {
    const kind = triggerKindOf(trigger);
    const row = kind.row(trigger, this);
    const add = () => this.triggers.push(called(kind.judge.when, kind.judge.takes.length));
    const number = this.numberOf("trigger", row.act, add);
    return this.item("trigger", number, kind.judge.takes, row);
  }

  /** Modes with their responses, then routines: what is done, in the order of the rows. */
  private partItems(): PartItem[] {
    const { modes } = this.named;
    return [
      ...modes.flatMap(({ mode, responses }): PartItem[] => [
        { part: "mode", name: mode.name, steps: this.stepItems(mode.entering) },
        ...responses.map((response): PartItem => {
          const { when, guard, then, fires, busy, restMs = 0, steps } = response;
          const leads = then === undefined ? STAYS : then === "finish" ? FINISHES : this.mode(then);
          return {
            ...{ part: "when", response, trigger: this.triggerItem(when) },
            ...(guard !== undefined && { guard: this.conditionItems(guard) }),
            args: {
              once: fires === "once per visit" ? 1 : 0,
              patient: busy === "let it finish" ? 1 : 0,
              restMs,
              leads,
            },
            steps: this.stepItems(steps),
          };
        }),
      ]),
      ...this.done.all.map(({ name, steps }): PartItem => ({ part: "routine", name, steps: this.stepItems(steps) })),
    ];
  }

  /** The functions of the kinds that were used: also of those to come. */
  get kinds(): KindRows {
    const { steps, triggers, conditions } = this;
    return { steps, triggers, conditions };
  }

  /** The whole behaviour. */
  rows(): Rows {
    this.parts = this.partItems();
    const all: number[] = [];
    const put = (cells: readonly number[]) => {
      for (const cell of cells) all.push(cell);
    };
    for (const item of this.parts) {
      if (item.part === "when") {
        const { once, patient, restMs, leads } = item.args;
        put([WHEN, ARGS + 4, once, patient, restMs, leads, ...cellsOf(item.trigger)]);
        if (item.guard !== undefined) {
          const cells = conditionCells(item.guard);
          put([ONLY_IF, ARGS + cells.length, ...cells]);
        }
      } else put([item.part === "mode" ? MODE : ROUTINE, ARGS]);
      for (const { step, row } of item.steps) {
        this.stepAt.set(all.length, step);
        put(cellsOf(row));
      }
      put([END, ARGS]);
    }
    put([DONE, ARGS]);
    const rows = this.made(all);
    findParts(rows);
    return rows;
  }

  /** A condition by itself, from the first cell on. */
  rowsOf(condition: Condition): Rows {
    return this.made(conditionCells(this.conditionItems(condition)));
  }

  private made(cells: readonly number[]): Rows {
    const { named, texts, counters } = this;
    const { modes, targets, eyes } = named;
    const cameras = eyes.flatMap(({ sensor }, i) => (isCamera(sensor) ? [i] : []));
    const steadies: Steady[] = [
      ...eyes.map(({ ruleSet }) => ruleSet.steady),
      ...cameras.flatMap((eye) => targets.map(() => eyes[eye].ruleSet.steady)),
    ];
    return new Rows(
      Float64Array.from(cells),
      modes.length,
      this.responses.length,
      this.done.all.length,
      this.triggerRows(),
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
      (eye, features, label) => this.clarities[eye](features, targets[label - 1].id),
    );
  }

  private triggerRows(): TriggerRows {
    const kinds = [...this.numbers.keys()].flatMap((key) => TRIGGERS.find(key.replace(/^trigger /, "")) ?? []);
    const all = (is: (kind: TriggerKind) => boolean) => Int32Array.from(kinds, (kind) => (is(kind) ? 1 : 0));
    return {
      byEvents: all(({ byEvents }) => byEvents === true),
      onEdge: all(({ onEdge }) => onEdge),
      renews: all(({ renews }) => renews === true),
      staysDue: all(({ staysDue }) => staysDue === true),
      answersArrivals: all(({ byEvents, answers }) => byEvents === true && answers !== undefined),
    };
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
      mostNested: this.numbers.has("step replay") ? MOST_NESTED : 1 + this.done.all.length,
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
