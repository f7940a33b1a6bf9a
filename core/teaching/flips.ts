import type { Target } from "../project/schema";
import { isRight } from "./score";

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
  const flips: Flips = { gained: 0, lost: 0, other: 0 };
  for (let i = 0; i < after.length; i++) {
    if (before[i] === after[i]) continue;
    const [was, is] =
      truth[i] === 0 ? [false, false] : [isRight(targets, truth[i], before[i]), isRight(targets, truth[i], after[i])];
    const kind = was === is ? "other" : is ? "gained" : "lost";
    flips[kind]++;
    if (into) into[i] = FLIP[kind];
  }
  return flips;
}
