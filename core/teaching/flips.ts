import type { Target } from "../rules";
import { rightTable } from "./score";

/** What became of a reading's label when the rules changed. */
export const FLIP = { none: 0, gained: 1, lost: 2, other: 3 } as const;

/** How many readings a change of rules gains, loses, or only labels otherwise (marked wrongly before and after, or not marked). */
export interface Flips {
  gained: number;
  lost: number;
  other: number;
}

/**
 * Compares the labels of one tape before and after a change of rules.
 * @param into where to note the kind of flip of each reading, if that is wanted.
 */
export function flipsOf(
  truth: Uint8Array,
  before: Uint8Array,
  after: Uint8Array,
  targets: readonly Pick<Target, "kind">[],
  into?: Uint8Array,
): Flips {
  const side = targets.length + 1;
  const right = rightTable(targets);
  const counts = [0, 0, 0, 0];
  for (let i = 0; i < after.length; i++) {
    if (before[i] === after[i]) continue;
    const row = truth[i] * side;
    const was = right[row + before[i]];
    const is = right[row + after[i]];
    const kind = was === is ? FLIP.other : is === 1 ? FLIP.gained : FLIP.lost;
    counts[kind]++;
    if (into) into[i] = kind;
  }
  return { gained: counts[FLIP.gained], lost: counts[FLIP.lost], other: counts[FLIP.other] };
}
