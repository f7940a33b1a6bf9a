import type { TargetId } from "@perceptum/core/names";
import type { Mark, RawReadings, Sensor } from "@perceptum/core/readings";

/** So much of what is being recorded is shown, in ms. */
export const SHOWN_MS = 30_000;

/** What is being recorded. Only its last seconds are here: the cost of a reading does not grow with what came before. */
export interface Recording {
  /** The last seconds, in ms from where the recording began. */
  readings: RawReadings;
  /** How many readings there are in all. */
  count: number;
  marks: readonly Mark[];
  marking: TargetId | null;
}

/** A sensor as it streams: its last seconds, how fast they come, and what is being recorded. */
export interface Live {
  sensor: Sensor | null;
  /** The last seconds. */
  readings: RawReadings;
  /** From when on, in ms of the readings, the stand has been as it is now; earlier readings are of something else. */
  since: number;
  /** Readings a second, as they really came. */
  rate: number;
  /** The display stands still; readings go on coming, and are recorded. */
  frozen: boolean;
  recording: Recording | null;
  /** What is wrong with where they come from, as a sentence. */
  trouble: string | null;
}

/** Readings that were recorded, with their marks. */
export interface Recorded {
  readings: RawReadings;
  marks: Mark[];
}
