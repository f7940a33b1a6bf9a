import { REPORT_KINDS } from "./reportKinds";
import type { Sensor } from "./sensorSchema";

/** A sensor that gives frames. */
export type CameraSensor = Sensor & Required<Pick<Sensor, "frame" | "clean" | "minArea" | "camera">>;

/** Whether a sensor gives frames. It stands apart from the schemas, which a page needs only once a file is read. */
export const isCamera = (sensor: Sensor): sensor is CameraSensor => REPORT_KINDS.get(sensor.reports).ofPixels === true;

/** Tells if a camera's values are sRGB. Files of before say nothing of it: theirs are linear. */
export const isSrgb = ({ values }: Sensor): boolean => values === "srgb";

/** A camera whose frames have another size; its strip and set point were of the old one. */
export function resized(
  { strip: _, setPoint: __, ...rest }: CameraSensor,
  { width, height }: { width: number; height: number },
): CameraSensor {
  return { ...rest, frame: { ...rest.frame, width, height } };
}

/** The names of the frames that tapes show, each once. */
export const framesOf = (tapes: readonly { frames?: readonly string[] | undefined }[]): string[] => [
  ...new Set(tapes.flatMap((tape) => tape.frames ?? [])),
];
