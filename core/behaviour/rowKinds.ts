import type { ModeId, SensorId, TargetId, Unknown } from "../names";
import type { Feature } from "../readings";
import type { Condition } from "./conditions/condition";
import type { Engine } from "./engine/Engine";
import type { Given } from "./given";

/** A row before its kind has its number: what it is, its arguments, and what stands behind them, in this order. */
export interface Row {
  act: string;
  args: readonly number[];
  numbers?: readonly number[];
  /** Of a condition that is made of others: of how many of those before it. */
  parts?: number;
  conditions?: Condition;
  step?: { step: string };
}

// Arguments of a kind are numbers, as many as it takes, and last where that stands which is behind them.
type Does = (e: Engine, ...args: number[]) => void;
type Asks = (e: Engine, ...args: number[]) => boolean;

/** Functions of a step's rows. */
export interface Acts {
  /** The arguments in their order; each function takes of them as many as it needs, from the first on. */
  takes: readonly string[];
  /** Runs the moment it begins. */
  begin?: Does;
  /** Runs when it begins, and then at each moment that brings readings, for as long as it goes on. */
  during?: Does;
  /** Tells whether it has ended; a kind without this ends at once. */
  ended?: Asks;
  /** Runs when it has ended. */
  end?: Does;
  /** It goes on beside the steps that follow, until something else takes its output. */
  isEndless?: true;
}

/** The function that judges a trigger's rows. */
export interface Judge {
  takes: readonly string[];
  when(e: Engine, ...args: number[]): number;
}

/** The function that asks a condition's rows. */
export interface Ask {
  takes: readonly string[];
  ask: Asks;
}

/** The numbers of what a project names, as rows hold them. */
export interface RowMaker {
  /** A target's label; that of unknown is 0. */
  label(target: TargetId | Unknown): number;
  /** The place of a sensor among those of the robot, the first where none is named; −1 where it carries none such. */
  eye(sensor?: SensorId): number;
  /** The place of a camera; −1 where none is named, or none such is carried: the first of which a frame has come. */
  camera(sensor?: SensorId): number;
  feature(feature: Feature): number;
  /** The sensor whose feature is meant: the first that reports it where none is named; −1 for none. */
  reporting(feature: Feature, sensor?: SensorId): number;
  /** The place of a sensor of which it is asked how clearly it reads a target; as `eye`. */
  clear(target: TargetId, sensor?: SensorId): number;
  counter(name: string): number;
  list(name: string): number;
  button(name: string): number;
  mode(mode: ModeId): number;
  /** The place of a routine as it is done with the values that it is given. */
  routine(routine: string, given?: readonly Given[]): number;
  lamp(lamp: string): number;
  servo(servo: string): number;
  /** The angle that a share of a servo's range is, in degrees; from 0 to 360 for one that is not there. */
  angle(servo: string, share: number): number;
  gate(gate: string): number;
  /** The place of a crate among those that a gate leads to; −1 where everything goes by itself. */
  crate(crate: string): number;
  text(text: string): number;
  /** A target's paint or `#rrggbb` as 0xRRGGBB; −1 for off. */
  colour(colour: string): number;
}
