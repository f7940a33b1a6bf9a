import type { TargetId } from "../project/ids";
import type { RuleSet } from "../project/schema";
import { FEATURES, type ReadingBlock } from "../readings";

/**
 * Labels of many readings as numbers: 0 is unknown, k is the k-th of `targets`, counted from 1.
 */
export type Labels = Uint8Array<ArrayBuffer>;

/** Readings judged together, small enough that their features and marks stay in the fastest cache. */
const STRIDE = 1024;

const HOLDING = new Uint8Array(STRIDE);
const MATCHED = new Uint8Array(STRIDE);

/**
 * Labels a whole block, reading by reading the same as `classify`. Rule by rule and test by test over short strides:
 * each inner loop compares one column with two numbers, which engines turn into straight code.
 *
 * @param targets the order that the labels count in; a rule whose target is not among them labels 0.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlock(ruleSet: RuleSet, block: ReadingBlock, targets: readonly TargetId[]): Labels {
  if (targets.length > 255) throw new RangeError(`at most 255 targets can be told apart, not ${targets.length}`);
  const labels = new Uint8Array(block.length);
  const rules = ruleSet.rules.filter((rule) => rule.on);
  const columns = Object.fromEntries(
    FEATURES.filter((f) => rules.some((r) => r.any.some((c) => c.all.some((t) => t.feature === f)))).map((f) => [
      f,
      block.column(f),
    ]),
  );
  for (let start = 0; start < block.length; start += STRIDE) {
    const size = Math.min(STRIDE, block.length - start);
    const open = MATCHED.fill(0, 0, size);
    for (const rule of rules) {
      const label = targets.indexOf(rule.target) + 1;
      for (const clause of rule.any) {
        const holding = HOLDING.fill(1, 0, size);
        for (const { feature, from = Number.NEGATIVE_INFINITY, to = Number.POSITIVE_INFINITY, not } of clause.all) {
          keepWithin(holding, columns[feature], start, size, from, to, not ?? false);
        }
        take(labels, open, holding, start, size, label);
      }
    }
  }
  return labels;
}

/** Clears the readings whose value fails the band. Written with & and |, for a branch would be guessed wrong half the time. */
function keepWithin(
  holding: Uint8Array,
  column: Float64Array,
  start: number,
  size: number,
  from: number,
  to: number,
  not: boolean,
): void {
  if (not) {
    const wraps = from > to;
    for (let i = 0; i < size; i++) {
      const x = column[start + i];
      const within = wraps ? x >= from || x <= to : x >= from && x <= to;
      if (within || Number.isNaN(x)) holding[i] = 0;
    }
  } else if (from > to) {
    for (let i = 0; i < size; i++) {
      const x = column[start + i];
      holding[i] &= +(x >= from) | +(x <= to);
    }
  } else {
    for (let i = 0; i < size; i++) {
      const x = column[start + i];
      holding[i] &= +(x >= from) & +(x <= to);
    }
  }
}

/** Gives `label` to the readings that hold and have none yet. */
function take(
  labels: Uint8Array,
  matched: Uint8Array,
  holding: Uint8Array,
  start: number,
  size: number,
  label: number,
): void {
  for (let i = 0; i < size; i++) {
    const first = holding[i] & (matched[i] ^ 1);
    labels[start + i] += first * label;
    matched[i] |= holding[i];
  }
}
