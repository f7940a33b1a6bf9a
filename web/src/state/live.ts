import type { Mark, Sensor, TargetId } from "@perceptum/core/project";
import type { RawReadings } from "@perceptum/core/readings";
import { Published } from "./Published";

/** The bench sensor as it streams: its last seconds, how fast they come, and what is being recorded. */
export interface Live {
  sensor: Sensor | null;
  /** The last seconds. */
  readings: RawReadings;
  /** Readings a second, as they really came. */
  rate: number;
  /** The display stands still; readings go on coming, and are recorded. */
  frozen: boolean;
  recording: { readings: RawReadings; marks: readonly Mark[]; marking: TargetId | null } | null;
}

/** Nothing streams. */
export const NOT_LIVE: Live = {
  sensor: null,
  readings: { t: new Float64Array(), channels: {} },
  rate: 0,
  frozen: false,
  recording: null,
};
export const live = new Published<Live>(NOT_LIVE);
