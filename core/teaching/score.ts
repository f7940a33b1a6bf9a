import type { Target } from "../project/schema";

/**
 * How marked readings were judged. `counts[truth][label]` counts readings; truth runs over the targets, label over
 * unknown (0) and the targets from 1.
 */
export interface Score {
  counts: number[][];
  marked: number;
  right: number;
}

/** A score with nothing in it yet. */
export function emptyScore(targets: number): Score {
  return { counts: Array.from({ length: targets }, () => new Array<number>(targets + 1).fill(0)), marked: 0, right: 0 };
}

/**
 * Adds readings to a score. A target is judged rightly when it has its own label; a background when it is unknown or
 * taken for a background.
 */
export function addToScore(
  score: Score,
  truth: Uint8Array,
  labels: Uint8Array,
  targets: readonly Pick<Target, "kind">[],
): void {
  const flat = new Uint32Array(256 * 256);
  for (let i = 0; i < truth.length; i++) flat[(truth[i] << 8) | labels[i]]++;
  const background = targets.map((t) => t.kind === "background");
  for (let t = 1; t <= targets.length; t++) {
    for (let l = 0; l <= targets.length; l++) {
      const n = flat[(t << 8) | l];
      score.counts[t - 1][l] += n;
      score.marked += n;
      if (l === t || (background[t - 1] && (l === 0 || background[l - 1]))) score.right += n;
    }
  }
}
