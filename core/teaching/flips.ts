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
  const counts = new FlipCounts(truth, before, after, targets, into);
  return counts.flips;
}

/** Flips of a tape, that go on being counted as labels change. */
export class FlipCounts {
  private readonly side: number;
  private readonly right: Uint8Array;
  private readonly counts = [0, 0, 0, 0];

  constructor(
    private readonly truth: Uint8Array,
    private readonly before: Uint8Array,
    after: Uint8Array,
    targets: readonly Pick<Target, "kind">[],
    into?: Uint8Array,
  ) {
    this.side = targets.length + 1;
    this.right = rightTable(targets);
    for (let i = 0; i < after.length; i++) {
      if (before[i] === after[i]) continue;
      const kind = this.kindOf(i, after[i]);
      this.counts[kind]++;
      if (into) into[i] = kind;
    }
  }

  /** Takes in that labels changed to those of `after`. */
  change({ at, was }: { at: Uint32Array; was: Uint8Array }, after: Uint8Array): void {
    for (let k = 0; k < at.length; k++) {
      this.counts[this.kindOf(at[k], was[k])]--;
      this.counts[this.kindOf(at[k], after[at[k]])]++;
    }
  }

  get flips(): Flips {
    const { counts } = this;
    return { gained: counts[FLIP.gained], lost: counts[FLIP.lost], other: counts[FLIP.other] };
  }

  private kindOf(i: number, label: number): number {
    const before = this.before[i];
    if (before === label) return FLIP.none;
    const row = this.truth[i] * this.side;
    const was = this.right[row + before];
    const is = this.right[row + label];
    return was === is ? FLIP.other : is === 1 ? FLIP.gained : FLIP.lost;
  }
}
