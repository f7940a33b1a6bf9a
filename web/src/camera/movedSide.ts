import type { CameraSensor, Strip } from "@perceptum/core/readings";
import { stripIn } from "@perceptum/core/vision";

export type Side = "top" | "bottom" | "left" | "right";

/** A strip with one side moved; it keeps a row and a column, and all of the frame is no strip. */
export function movedSide(
  { frame, strip }: Pick<CameraSensor, "frame" | "strip">,
  side: Side,
  to: number,
): Strip | undefined {
  const now = stripIn(frame, strip);
  const level = side === "top" || side === "bottom";
  const most = level ? frame.height : frame.width;
  const [low, high] =
    side === "top"
      ? [0, now.bottom - 1]
      : side === "left"
        ? [0, now.right - 1]
        : side === "bottom"
          ? [now.top + 1, most]
          : [now.left + 1, most];
  const moved = { ...now, [side]: Math.max(low, Math.min(high, Math.round(to))) };
  const whole = moved.top === 0 && moved.left === 0 && moved.bottom === frame.height && moved.right === frame.width;
  return whole ? undefined : moved;
}
