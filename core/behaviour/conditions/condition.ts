import type { SensorId, TargetId, UNKNOWN } from "../../names";
import type { Feature } from "../../readings";

/** What is measured of the largest blob of a target in a camera's frame, in px; `error` is how far right of the middle. */
export const BLOB_MEASURES = ["width", "height", "area", "x", "y", "error"] as const;
export type BlobMeasure = (typeof BLOB_MEASURES)[number];
/** The largest blob of a target, and half the width of the frame that it is in. */
export type Blob = Record<BlobMeasure, number> & { halfFrame: number };

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
  seen(sensor?: SensorId): TargetId | typeof UNKNOWN;
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
