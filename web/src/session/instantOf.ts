import type { TapeId } from "@perceptum/core/names";
import type { MarkedTape } from "@perceptum/core/teaching";

/** Where a marked reading lies: its tape and time; a pixel of a box is on the box's frame. */
export function instantOf(
  { head, block, mark }: MarkedTape,
  index: number,
): { source: TapeId; t: number; framed: boolean } {
  const framed = head.frames !== undefined;
  return { source: head.id, t: framed ? (head.boxes?.[mark[index] - 1]?.t ?? 0) : block.t[index], framed };
}
