import type { TargetId } from "@perceptum/core/names";
import type { Mark, RawReadings, Sensor } from "@perceptum/core/readings";

/** The last part of a recording under way that is shown, in ms. */
export const SHOWN_MS = 30_000;

/** A recording under way. Only its last seconds are here: the cost of a reading does not grow with what came before. */
export interface Recording {
  /** The last seconds, in ms from where the recording began. */
  readings: RawReadings;
  /** The count of all its readings. */
  count: number;
  marks: readonly Mark[];
  marking: TargetId | null;
}

/** A sensor as it streams: its last seconds, how fast they come, and what is being recorded. */
export interface Live {
  sensor: Sensor | null;
  /** The last seconds. */
  readings: RawReadings;
  /** The stand has been as it is now since then, in ms of the readings; earlier ones are of something else. */
  since: number;
  /** Readings a second, as they really came. */
  rate: number;
  /** The display stands still; readings go on coming, and are recorded. */
  frozen: boolean;
  recording: Recording | null;
  /** A sentence on what is wrong with the robot or its line. */
  trouble: string | null;
}

/** Readings that were recorded, with their marks. */
export interface Recorded {
  readings: RawReadings;
  marks: Mark[];
}
