import type { SensorId, TargetId, UNKNOWN } from "../../names";
import type { Feature } from "../../readings";
import type { BlobMeasure } from "../../vision";

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

/** Facts of a moment, for whoever tells how a condition stands. A feature that the sensor has not reported is NaN. */
export interface Moment {
  /** What a sensor sees; of several targets that a camera sees, the first in the project's order. */
  seen(sensor?: SensorId): TargetId | typeof UNKNOWN;
  feature(feature: Feature, sensor?: SensorId): number;
  counter(name: string): number;
  /** How many targets a list holds. */
  length(list: string): number;
}
