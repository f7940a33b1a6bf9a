import type { TargetId } from "../names";
import type { Box, TapeHead } from "../readings";
import type { Target } from "../rules";
import { type FoundInFrames, largestIn } from "./frameFacts";

/** How a target is found in frames of which it is known what they show. */
export interface FrameScore {
  target: TargetId;
  /** Frames that show it, by a box or a mark, and how many of them have its largest blob there. */
  shown: number;
  right: number;
  /** Frames whose largest blob of it lies on a box of something else, where it is not boxed itself. */
  wrong: number;
}

type Rect = Pick<Box, "left" | "top" | "width" | "height">;

/** Whether two rectangles share a pixel. */
const meets = (a: Rect, b: Rect) =>
  a.left < b.left + b.width && b.left < a.left + a.width && a.top < b.top + b.height && b.top < a.top + a.height;

/** How many frames of a tape have each target rightly. A frame is known by its boxes and by the marks that it lies in. */
export function frameScore(
  tape: Pick<TapeHead, "boxes" | "marks">,
  targets: readonly Target[],
  facts: FoundInFrames,
): FrameScore[] {
  const { boxes = [], marks } = tape;
  const scores = targets.map((target): FrameScore => ({ target: target.id, shown: 0, right: 0, wrong: 0 }));
  for (let k = 0; k < facts.t.length; k++) {
    const t = facts.t[k];
    const boxed = boxes.filter((box) => box.t === t);
    const marked = marks.filter((mark) => t >= mark.from && t <= mark.to).map((mark) => mark.target);
    if (boxed.length === 0 && marked.length === 0) continue;
    targets.forEach(({ id, kind }, i) => {
      if (kind === "background") return;
      const blob = largestIn(facts, k, id);
      const own = boxed.filter((box) => box.target === id);
      const score = scores[i];
      if (own.length > 0 || marked.includes(id)) {
        score.shown++;
        if (blob !== undefined && (own.length === 0 || own.some((box) => meets(blob, box)))) score.right++;
      } else if (blob !== undefined && boxed.some((box) => meets(blob, box))) score.wrong++;
    });
  }
  return scores.filter(({ shown, wrong }) => shown + wrong > 0);
}
