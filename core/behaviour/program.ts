import type { ModeId, ResponseId, SensorId, TargetId } from "../names";
import type { Ids } from "../phrases";
import { FEATURES, featureReader, isCamera, REPORT_KINDS, type Sensor } from "../readings";
import { labeller, type RuleSet, ruleSetOf, type Target } from "../rules";
import { type Condition, goesByTravel } from "./conditions";
import type { Rows } from "./engine/rows";
import type { Ability, BeltMachine, Machine } from "./Machine";
import type { ProgramEye } from "./ProgramEye";
import { RowWriter } from "./rowsOf";
import type { Behaviour, Mode, Response } from "./schema";
import type { Step } from "./steps";
import { sensorOf, targetsOf, triggerKindOf } from "./triggers";

/** A mode with the responses that are on. */
export interface ProgramMode {
  mode: Mode;
  responses: readonly Response[];
  /** Whether something in it may start again at any moment. */
  restless: boolean;
  /** Whether one of its responses goes by conditions, which may come to hold with any reading. */
  goesByReadings: boolean;
  /** What starts again as long as one of these targets is seen. */
  whileSeen: readonly { eye: number; labels: readonly number[] }[];
  /** Timers: each is due so long after the mode began, or after a sensor last knew something; `again` is the number of the response that may then start again and again, −1 for none. */
  timers: readonly { eye: number; ms: number; silence: boolean; again: number }[];
}

/** A behaviour made ready to be advanced: looked up once, shared by every moment of a run. */
export interface Program {
  eyes: readonly ProgramEye[];
  /** Labels count in this order from 1. */
  targets: readonly TargetId[];
  /** Modes, and the responses that are on, in the order of their numbers. */
  modes: readonly ProgramMode[];
  responses: readonly ResponseId[];
  /** The behaviour as the engine runs it, and what its numbers stand for. */
  rows: Rows;
  naming: RowWriter;
  /** The rows of a condition by itself. */
  rowsOf(condition: Condition): Rows;
  start: ModeId;
  trackMm: number;
  wheelMm: number;
  /** Where 100 % is, in mm/s. */
  topSpeed: number;
  /** What stands along the machine's belt, where it has one. */
  belt: BeltMachine | undefined;
  /** What the machine can carry out. */
  can: ReadonlySet<Ability>;
  /** Whether some condition goes by how the wheels turn: they are looked at in every moment then. */
  goesByTravel: boolean;
}

/** Which of the robot's sensors is meant, from 0: the first one where none is named; −1 where it is not mounted. */
export const eyeOf = (eyes: readonly { id: SensorId }[], sensor: SensorId | undefined): number =>
  sensor === undefined ? 0 : eyes.findIndex((eye) => eye.id === sensor);

/** What of a project behaviour needs. */
interface Behaving {
  sensors: readonly Sensor[];
  ruleSets: readonly RuleSet[];
  targets: readonly Target[];
  behaviour: Behaviour;
}

/** Makes a project's behaviour ready for a machine. */
export function prepareProgram(project: Behaving, machine: Machine): Program {
  const { sensors, ruleSets, targets, behaviour } = project;
  const ids = targets.map((t) => t.id);
  const eyes = machine.eyes.map((id): ProgramEye => {
    const sensor = sensors.find((s) => s.id === id);
    if (sensor === undefined) throw new Error(`the robot's sensor ${id} is not there`);
    const ruleSet = ruleSetOf({ ruleSets }, sensor);
    return { id, sensor, ruleSet, read: featureReader(sensor), labelOf: labeller(ruleSet, ids) };
  });
  const labelOf = (target: TargetId) => targets.findIndex((t) => t.id === target) + 1;
  const modes: ProgramMode[] = [];
  for (const mode of behaviour.modes) {
    const before = modes.reduce((sum, { responses }) => sum + responses.length, 0);
    modes.push(prepareMode(mode, eyes, labelOf, before));
  }
  const naming = new RowWriter({ machine, eyes, targets, behaviour, modes });
  const conditions = new Map<Condition, Rows>();
  return {
    rows: naming.rows(),
    naming,
    rowsOf(condition) {
      const known = conditions.get(condition) ?? naming.rowsOf(condition);
      conditions.set(condition, known);
      return known;
    },
    modes,
    responses: naming.responses.map(({ id }) => id),
    eyes,
    targets: ids,
    start: behaviour.start,
    trackMm: machine.wheels?.trackMm ?? 1,
    wheelMm: machine.wheels?.wheelMm ?? 1,
    topSpeed: machine.topSpeed,
    belt: machine.belt,
    can: new Set(machine.can),
    goesByTravel: conditionsOf(behaviour).some(goesByTravel),
  };
}

/** Every condition of a behaviour: of triggers, guards and steps. */
function conditionsOf({ modes, routines }: Behaviour): Condition[] {
  const responses = modes.flatMap((mode) => mode.responses);
  const steps = [
    ...modes.map((mode) => mode.entering),
    ...responses.map((r) => r.steps),
    ...routines.map((r) => r.steps),
  ];
  return [
    ...responses.flatMap(({ when, guard }) => [triggerKindOf(when).condition?.(when), guard]),
    ...steps.flat().map(untilOf),
  ].filter((condition) => condition !== undefined);
}

/** The condition until which a step goes on, also of one that runs beside the others. */
function untilOf(step: Step): Condition | undefined {
  if (step.step === "meanwhile") return untilOf(step.does);
  if ("until" in step) return step.until;
  return "travel" in step && step.travel !== undefined && "until" in step.travel ? step.travel.until : undefined;
}

function prepareMode(
  mode: Mode,
  eyes: readonly ProgramEye[],
  labelOf: (target: TargetId) => number,
  before: number,
): ProgramMode {
  // What goes by a sensor that the robot does not carry never holds.
  const on = mode.responses.filter((r) => r.on && eyeOf(eyes, sensorOf(r.when)) >= 0);
  const timers = on.flatMap(({ when, fires }, i) => {
    const timer = triggerKindOf(when).timer?.(when);
    if (timer === undefined) return [];
    return [{ eye: eyeOf(eyes, sensorOf(when)), ...timer, again: fires === "while present" ? before + i : -1 }];
  });
  const whilePresent = on.filter((r) => r.fires === "while present");
  return {
    mode,
    responses: on,
    goesByReadings: on.some(({ when, guard }) => {
      const { condition, byEvents } = triggerKindOf(when);
      return condition !== undefined || (guard !== undefined && !byEvents);
    }),
    // A trigger that names no event, time or condition may hold at any moment.
    restless:
      whilePresent.some(({ when }) => triggerKindOf(when).condition !== undefined) ||
      on.some(({ when }) => {
        const { byEvents, whileSeen, timer, condition } = triggerKindOf(when);
        return !byEvents && !whileSeen && timer === undefined && condition === undefined;
      }),
    whileSeen: whilePresent.flatMap(({ when }) =>
      triggerKindOf(when).whileSeen ? [{ eye: eyeOf(eyes, sensorOf(when)), labels: targetsOf(when).map(labelOf) }] : [],
    ),
    timers,
  };
}

/** What phrases of this project may name. */
export function namesOf(
  project: Omit<Behaving, "ruleSets"> & {
    robot: {
      lamps: readonly string[];
      buttons: readonly string[];
      servos: readonly { id: string }[];
      gates?: readonly { id: string; name?: string | undefined }[];
      crates?: readonly { id: string; name: string }[];
    };
  },
): Ids {
  return {
    targets: project.targets.map((t) => t.id),
    sensors: project.sensors.map((s) => s.id),
    cameras: project.sensors.filter(isCamera).map((s) => s.id),
    features: FEATURES.filter((f) => project.sensors.some((s) => REPORT_KINDS.get(s.reports).features.includes(f))),
    modes: project.behaviour.modes.map((m) => m.id),
    lamps: project.robot.lamps,
    counters: project.behaviour.counters,
    lists: project.behaviour.lists,
    routines: project.behaviour.routines.map((r) => r.id),
    ...takesOf(project.behaviour),
    buttons: project.robot.buttons,
    servos: project.robot.servos.map((s) => s.id),
    gates: (project.robot.gates ?? []).map((gate) => gate.id),
    crates: (project.robot.crates ?? []).map((crate) => crate.id),
  };
}

/** Gives what each routine takes, where one does. */
const takesOf = ({ routines }: Behaviour): Pick<Ids, "takes"> => {
  const takes = routines.flatMap(({ id, inputs }) => (inputs === undefined ? [] : [[id, inputs]]));
  return takes.length === 0 ? {} : { takes: Object.fromEntries(takes) };
};
