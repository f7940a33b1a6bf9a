import type { TargetId } from "../../names";
import type { Box } from "../../readings";

/** A run of pixels of a row that show one target: its first pixel in the frame, and how many. */
export interface TruthRun {
  from: number;
  count: number;
  target: TargetId;
}

/** The true target of each pixel as runs, row after row; what is no target is left out. */
export function truthRuns(
  shows: Int32Array,
  width: number,
  targetOf: (thing: number) => TargetId | undefined,
): TruthRun[] {
  const runs: TruthRun[] = [];
  for (let i = 0; i < shows.length; ) {
    const from = i;
    const end = (Math.floor(i / width) + 1) * width;
    while (i < end && shows[i] === shows[from]) i++;
    const target = targetOf(shows[from]);
    if (target !== undefined) runs.push({ from, count: i - from, target });
  }
  return runs;
}

/** Smaller boxes than this on a side are not worth teaching by, in px. */
const LEAST_SIDE = 3;

/** For each target of a frame the largest box that shows nothing else, in the order in which they are met. */
export function truthBoxes(
  runs: readonly TruthRun[],
  width: number,
  height: number,
): Omit<Box, "id" | "t" | "light">[] {
  const targets = [...new Set(runs.map(({ target }) => target))];
  return targets.flatMap((target) => {
    const mask = new Uint8Array(width * height);
    for (const run of runs) if (run.target === target) mask.fill(1, run.from, run.from + run.count);
    const box = largestBox(mask, width, height);
    return Math.min(box.width, box.height) < LEAST_SIDE ? [] : [{ target, ...box }];
  });
}

/** The largest rectangle of ones in a mask: for each row, of the columns of ones that end in it. */
function largestBox(mask: Uint8Array, width: number, height: number) {
  let best = { left: 0, top: 0, width: 0, height: 0 };
  const tall = new Int32Array(width + 1);
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++)
      tall[column] = mask[row * width + column] === 0 ? 0 : tall[column] + 1;
    // Columns that rise, from left to right: each ends where a lower one comes.
    const rising: { from: number; high: number }[] = [];
    for (let column = 0; column <= width; column++) {
      let from = column;
      while (rising.length > 0 && rising[rising.length - 1].high > tall[column]) {
        const last = rising.pop() as { from: number; high: number };
        const wide = column - last.from;
        if (wide * last.high > best.width * best.height)
          best = { left: last.from, top: row - last.high + 1, width: wide, height: last.high };
        from = last.from;
      }
      rising.push({ from, high: tall[column] });
    }
  }
  return best;
}
