import type { SensorId, TargetId, UNKNOWN } from "../../names";
import type { Feature } from "../../readings";
import type { Blob, BlobMeasure } from "../../vision";

/** What can be true at a moment: serves triggers, guards and `until`. */
export type Condition =
  | { seen: (TargetId | typeof UNKNOWN)[]; sensor?: SensorId }
  | { feature: Feature; from?: number; to?: number; open?: boolean; sensor?: SensorId }
  | { count: string; from?: number; to?: number }
  | { list: string; holds: number }
  | { button: string }
  | { still: true }
  | { blob: TargetId; measure: BlobMeasure; from?: number; to?: number; open?: boolean; sensor?: SensorId }
  | { blob: TargetId; side: "left" | "right"; of: TargetId; sensor?: SensorId }
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition };

/** What a condition is judged by. A feature that the sensor has not reported is NaN. */
export interface Moment {
  /** What a sensor sees; of several targets that a camera sees, the first in the project's order. */
  seen(sensor?: SensorId): TargetId | typeof UNKNOWN;
  /** Whether a sensor sees a target, or with unknown whether it sees none. */
  sees(target: TargetId | typeof UNKNOWN, sensor?: SensorId): boolean;
  feature(feature: Feature, sensor?: SensorId): number;
  counter(name: string): number;
  /** How many targets a list holds. */
  length(list: string): number;
  /** Whether a button of the robot is held down. */
  pressed(button: string): boolean;
  /** Whether the wheels are at rest. */
  still(): boolean;
  /** The largest blob of a target that a camera sees; undefined where there is none, or no camera. */
  blob(target: TargetId, sensor?: SensorId): Blob | undefined;
}
