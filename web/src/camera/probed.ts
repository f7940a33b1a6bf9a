import type { CameraSensor, RawReadings } from "@perceptum/core/readings";
import type { Probe } from "../model/session/ProjectSession";
import type { SeenFrame } from "./useFrame";

/** A pixel as a reading of the sensor: its values stand where they came over the wire. */
export function probed(
  { shown }: Pick<SeenFrame, "shown">,
  sensor: CameraSensor,
  { column, row }: { column: number; row: number },
): Probe {
  const at = 4 * (row * shown.width + column);
  const rgb = [shown.data[at], shown.data[at + 1], shown.data[at + 2]];
  const wire = [...(sensor.order ?? "rgb")].map((letter) => rgb["rgb".indexOf(letter)]);
  const raw: RawReadings = {
    t: Float64Array.of(0),
    channels: { r: Float64Array.of(wire[0]), g: Float64Array.of(wire[1]), b: Float64Array.of(wire[2]) },
  };
  return { sensor, raw, column, row };
}
