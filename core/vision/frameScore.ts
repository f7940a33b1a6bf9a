import type { TargetId } from "../names";
import type { Box, CameraSensor, TapeHead } from "../readings";
import type { RuleSet, Target } from "../rules";
import type { FoundBlob } from "./BlobList";
import { Watch } from "./blob";
import type { Frame } from "./frame";
import type { PixelLabels } from "./PixelLabels";

/** How a target is found in frames of which it is known what they show. */
export interface FrameScore {
  target: TargetId;
  /** Frames that show it, by a box or a mark, and how many of them have its largest blob there. */
  shown: number;
  right: number;
  /** Frames whose largest blob of it lies on a box of something else, where it is not boxed itself. */
  wrong: number;
}

/** Whether a blob lies on a box, at least with a corner. */
const liesOn = (blob: FoundBlob, box: Omit<Box, "t" | "target">) =>
  blob.left < box.left + box.width &&
  box.left < blob.left + blob.width &&
  blob.top < box.top + box.height &&
  box.top < blob.top + blob.height;

/**
 * How many frames of a tape have each target rightly. A frame is known by its boxes and by the marks that it lies in;
 * `frameAt` gives those that are asked for, one after the other.
 */
export function frameScore(
  tape: Pick<TapeHead, "boxes" | "marks">,
  times: ArrayLike<number>,
  sensor: CameraSensor,
  ruleSet: RuleSet,
  targets: readonly Target[],
  frameAt: (t: number) => Frame | undefined,
  labels?: PixelLabels,
): FrameScore[] {
  const { boxes = [], marks } = tape;
  const watch = new Watch(sensor, ruleSet, targets, labels);
  const scores = targets.map((target): FrameScore => ({ target: target.id, shown: 0, right: 0, wrong: 0 }));
  for (let k = 0; k < times.length; k++) {
    const t = times[k];
    const boxed = boxes.filter((box) => box.t === t);
    const marked = marks.filter((mark) => t >= mark.from && t <= mark.to).map((mark) => mark.target);
    if (boxed.length === 0 && marked.length === 0) continue;
    const frame = frameAt(t);
    if (frame === undefined) continue;
    watch.look(frame);
    const { left, top } = watch.eye.strip;
    targets.forEach(({ id, kind }, i) => {
      if (kind === "background") return;
      const list = watch.eye.blobs(i + 1);
      const blob = list.length > 0 ? list.blob(0, left, top) : undefined;
      const own = boxed.filter((box) => box.target === id);
      const score = scores[i];
      if (own.length > 0 || marked.includes(id)) {
        score.shown++;
        if (blob !== undefined && (own.length === 0 || own.some((box) => liesOn(blob, box)))) score.right++;
      } else if (blob !== undefined && boxed.some((box) => liesOn(blob, box))) score.wrong++;
    });
  }
  return scores.filter(({ shown, wrong }) => shown + wrong > 0);
}
