import type { TargetId } from "../names";
import type { CameraSensor } from "../readings";
import type { RuleSet, Target } from "../rules";
import type { FoundBlob } from "./BlobList";
import { FrameEye } from "./FrameEye";
import { type Frame, formOf } from "./frame";
import { type PixelLabels, pixelLabelsOf } from "./PixelLabels";

/** What is measured of the largest blob of a target in a camera's frame, in px; `error` is how far right of the set point. */
export const BLOB_MEASURES = ["width", "height", "area", "x", "y", "error"] as const;
export type BlobMeasure = (typeof BLOB_MEASURES)[number];
/** The largest blob of a target, and half the width of the frame that it is in. */
export type Blob = Record<BlobMeasure, number> & { halfFrame: number };

/** Measures of a blob, in the order in which engines keep them. */
export const BLOB_ORDER: readonly (keyof Blob)[] = ["area", "width", "height", "x", "y", "error", "halfFrame"];

/** The column from which a blob's error is counted. */
export const setPointOf = ({ frame, setPoint }: Pick<CameraSensor, "frame" | "setPoint">): number =>
  setPoint ?? (frame.width - 1) / 2;

/** The measures of a blob in a camera's frame. */
export function measured(found: FoundBlob, sensor: Pick<CameraSensor, "frame" | "setPoint">): Blob {
  const { left, top, width, height, area } = found;
  const x = left + (width - 1) / 2;
  const y = top + (height - 1) / 2;
  return { width, height, area, x, y, error: x - setPointOf(sensor), halfFrame: sensor.frame.width / 2 };
}

/** Finds in each frame of a camera the largest blob of every target that is no background. */
export class Watch {
  readonly eye: FrameEye;
  private readonly wanted: readonly { target: TargetId; label: number }[];

  /** @param labels what pixels are taken for; made from the rules unless they are known */
  constructor(
    readonly sensor: CameraSensor,
    ruleSet: RuleSet,
    targets: readonly Target[],
    readonly labels: PixelLabels = pixelLabelsOf(
      ruleSet,
      targets.map((t) => t.id),
    ),
  ) {
    this.eye = new FrameEye(labels, formOf(sensor), sensor, targets.length);
    this.wanted = targets.flatMap(({ id, kind }, i) => (kind === "background" ? [] : [{ target: id, label: i + 1 }]));
  }

  /** @throws RangeError for a frame of another size */
  look(frame: Frame): ReadonlyMap<TargetId, Blob> {
    this.eye.see(frame);
    const blobs = new Map<TargetId, Blob>();
    for (const { target, label } of this.wanted) {
      const list = this.eye.blobs(label);
      const { left, top } = this.eye.strip;
      if (list.length > 0) blobs.set(target, measured(list.blob(0, left, top), this.sensor));
    }
    return blobs;
  }
}

/** Numbers kept of the largest blob of a target in a frame: area, left, top, width and height; an area of 0 is none. */
export const KEPT_BLOB_CELLS = 5;

/** Keeps a blob at a place among others. */
export function keepBlob(kept: Int32Array, place: number, { area, left, top, width, height }: FoundBlob): void {
  kept.set([area, left, top, width, height], place * KEPT_BLOB_CELLS);
}

/** The blob that is kept at a place; undefined where there is none. */
export function keptBlob(kept: Int32Array, place: number): FoundBlob | undefined {
  const [area, left, top, width, height] = kept.subarray(place * KEPT_BLOB_CELLS);
  return area > 0 ? { left, top, width, height, area } : undefined;
}
