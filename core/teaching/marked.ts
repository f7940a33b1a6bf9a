import type { TargetId, Unlisted } from "../names";
import {
  Blocks,
  type Mark,
  type RawReadings,
  type ReadingBlock,
  type ReadingsByTape,
  type Sensor,
  type TapeHead,
} from "../readings";
import type { Target } from "../rules";

/** A tape with its features and, for each reading, its mark (from 1; 0 for none) and true target (from 1; 0 for none). */
export interface MarkedTape {
  head: TapeHead;
  sensor: Sensor;
  raw: RawReadings;
  block: ReadingBlock;
  mark: Uint16Array<ArrayBuffer>;
  truth: Uint8Array<ArrayBuffer>;
}

/** When a marked reading was read, in ms of its tape; a pixel of a box at the time of the box's frame. */
export const timeOf = ({ head, block, mark }: MarkedTape, index: number): number =>
  head.frames === undefined ? block.t[index] : (head.boxes?.[mark[index] - 1]?.t ?? 0);

/** Which mark each reading lies in, counted from 1; 0 for none. A later mark covers an earlier one. */
export function markOfEach(block: ReadingBlock, marks: readonly Unlisted<Mark>[]): Uint16Array<ArrayBuffer> {
  const found = new Uint16Array(block.length);
  marks.forEach((mark, m) => {
    for (let i = block.firstFrom(mark.from); i < block.length && block.t[i] <= mark.to; i++) found[i] = m + 1;
  });
  return found;
}

/** The true target of each reading, counted from 1 in `targets`' order; 0 where nothing is marked. */
export function truthOfEach(
  mark: Uint16Array,
  marks: readonly Unlisted<Mark>[],
  targets: readonly TargetId[],
): Uint8Array<ArrayBuffer> {
  const ofMark = [0, ...marks.map((m) => targets.indexOf(m.target) + 1)];
  // A loop: `from` with a function is many times slower.
  const truth = new Uint8Array(mark.length);
  for (let i = 0; i < mark.length; i++) truth[i] = ofMark[mark[i]];
  return truth;
}

/** Every tape of a project whose readings are there, made ready for scoring; `blocks` are those that are known already. */
export function markedTapes(
  project: { tapes: readonly TapeHead[]; sensors: readonly Sensor[]; targets: readonly Target[] },
  readings: ReadingsByTape,
  blocks = new Blocks(),
): MarkedTape[] {
  const targets = project.targets.map((t) => t.id);
  return project.tapes.flatMap((head) => {
    const raw = readings.get(head.id);
    const sensor = project.sensors.find((s) => s.id === head.sensor);
    if (raw === undefined || sensor === undefined) return [];
    const block = blocks.of(raw, sensor);
    const mark = markOfEach(block, head.marks);
    return [{ head, sensor, raw, block, mark, truth: truthOfEach(mark, head.marks, targets) }];
  });
}
