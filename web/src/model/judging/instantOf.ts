import type { TapeId } from "@perceptum/core/names";
import { type MarkedTape, timeOf } from "@perceptum/core/teaching";

/** Where a marked reading lies: its tape and time; a pixel of a box is on the box's frame. */
export const instantOf = (tape: MarkedTape, index: number): { source: TapeId; t: number; framed: boolean } => ({
  source: tape.head.id,
  t: timeOf(tape, index),
  framed: tape.head.frames !== undefined,
});
