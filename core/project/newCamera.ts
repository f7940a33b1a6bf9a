import type { RuleSetId, SensorId } from "../names";
import type { CameraSensor } from "../readings";

/** A camera as it is unless one says otherwise: ten frames a second of a size, cleaned by a square of 3 × 3 px. */
export function newCamera(
  id: SensorId,
  name: string,
  ruleSet: RuleSetId,
  { width, height }: { width: number; height: number },
): CameraSensor {
  return {
    id,
    name,
    ruleSet,
    reports: "frames",
    scale: { r: [0, 255], g: [0, 255], b: [0, 255] } as CameraSensor["scale"],
    periodMs: 100,
    frame: { width, height, rows: "top first" },
    clean: { erode: 1, dilate: 1 },
    minArea: Math.max(1, Math.round((width * height) / 640)),
    values: "srgb",
    camera: { viewDeg: 60 },
    optics: {
      spotMm: 9,
      lampRgb: [0, 0, 0],
      bestMm: 200,
      depthMm: 200,
      minMm: 0,
      leakPerMm: 1,
      gain: [2.1, 2.06, 2.14],
      glare: [0.01, 0.01, 0.012],
      read: 0.006,
      shot: 0.014,
      integrationMs: 10,
      bits: 8,
    },
  };
}
