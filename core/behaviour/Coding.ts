import type { ModeId, SensorId, TargetId, Unknown } from "../names";
import type { Feature } from "../readings";
import type { Blob } from "../vision";
import type { Condition } from "./conditions/condition";

/** Track and diameter of the driven wheels in mm. */
export interface WheelSizes {
  readonly trackMm: number;
  readonly wheelMm: number;
}

/**
 * How the code for a robot calls what a project names. Steps, triggers and conditions write themselves down with it in
 * the form that `readFns` of `core/tree` reads; what they may call stands in `core/code/engineFns.ts`.
 */
export interface Coding extends WheelSizes {
  /** Lamps that every machine has, and those of this one. */
  readonly lamps: readonly string[];
  /** A target's label, a whole number; that of unknown is 0. */
  label(target: TargetId | Unknown): string;
  /** The place of a sensor among those of the robot, the first where none is named; −1 where it carries none such. */
  eye(sensor?: SensorId): number;
  /** Whether a sensor sees a target, or with unknown whether it sees none. */
  sees(target: TargetId | Unknown, sensor?: SensorId): string;
  /** The label that a sensor sees. */
  seen(sensor?: SensorId): string;
  /** The number of a visit before a sensor, of the target of a label. */
  visit(eye: number, label: string): string;
  feature(feature: Feature, sensor?: SensorId): string;
  clarity(target: TargetId, sensor?: SensorId): string;
  /** What is known of the largest blob of a target; `nan` where there is none. */
  blob(target: TargetId, field: keyof Blob, sensor?: SensorId): string;
  counter(name: string): string;
  list(name: string): string;
  /** Whether a button is held down. */
  button(name: string): string;
  mode(mode: ModeId): string;
  routine(routine: string): string;
  lamp(lamp: string): string;
  servo(servo: string): string;
  /** The angle that a servo gets to on its way to one. */
  servoReaches(servo: string, degrees: number): number;
  gate(gate: string): string;
  /** The place of a crate among those that a gate leads to; null where everything goes by itself. */
  crate(crate: string): string | null;
  paintOf(target: string): string;
  condition(condition: Condition): string;
  /** The number of a step that runs beside the others. */
  beside(step: { step: string }): string;
  /** The place of the first of a tune's tones among all tones. */
  tune(tones: readonly { hertz: number; ms: number }[]): string;
}

/** A step as code: what is done when it begins, and while it goes on; whether it has ended, and what is done then. */
export interface StepCode {
  begin?: string;
  during?: string;
  /** Missing where it ends at once. */
  ended?: string;
  end?: string;
}

/** A number as the code writes numbers, with a point. */
export function coded(value: number): string {
  const text = String(value);
  return text.includes(".") ? text : text.replace(/(e|$)/, ".0$1");
}

/** A text as the code writes texts. */
export const quoted = (text: string): string => JSON.stringify(text);
