import type { TargetId } from "../project/ids";
import type { RuleSet } from "../project/schema";
import type { ReadingBlock } from "../readings";

/**
 * Labels of many readings as numbers: 0 is unknown, k is the k-th of `targets`, counted from 1.
 */
export type Labels = Uint8Array<ArrayBuffer>;

/** The clauses of all rules that are on, in order, laid flat: the first that holds gives its label. */
interface FlatRules {
  columns: Float64Array[];
  /** Per clause: its label, and where its tests end. */
  label: Uint8Array;
  end: Int32Array;
  /** Per test: column, ends of the band, and how it is read: bit 0 wraps through 0, bit 1 is turned round. */
  column: Uint8Array;
  from: Float64Array;
  to: Float64Array;
  how: Uint8Array;
}

function flatten(ruleSet: RuleSet, block: ReadingBlock, targets: readonly TargetId[]): FlatRules {
  const clauses = ruleSet.rules
    .filter((rule) => rule.on)
    .flatMap((rule) => rule.any.map((clause) => ({ label: targets.indexOf(rule.target) + 1, tests: clause.all })));
  const tests = clauses.flatMap((clause) => clause.tests);
  const features = [...new Set(tests.map((t) => t.feature))];
  let end = 0;
  return {
    columns: features.map((f) => block.column(f)),
    label: Uint8Array.from(clauses, (c) => c.label),
    end: Int32Array.from(clauses, (c) => (end += c.tests.length)),
    column: Uint8Array.from(tests, (t) => features.indexOf(t.feature)),
    from: Float64Array.from(tests, (t) => t.from ?? Number.NEGATIVE_INFINITY),
    to: Float64Array.from(tests, (t) => t.to ?? Number.POSITIVE_INFINITY),
    how: Uint8Array.from(
      tests,
      ({ from, to, not }) => (from !== undefined && to !== undefined && from > to ? 1 : 0) | (not ? 2 : 0),
    ),
  };
}

/**
 * Labels a whole block, reading by reading the same as `classify`.
 *
 * @param targets the order that the labels count in; a rule whose target is not among them labels 0.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlock(ruleSet: RuleSet, block: ReadingBlock, targets: readonly TargetId[]): Labels {
  if (targets.length > 255) throw new RangeError(`at most 255 targets can be told apart, not ${targets.length}`);
  const { columns, label, end, column, from, to, how } = flatten(ruleSet, block, targets);
  const labels = new Uint8Array(block.length);
  const clauses = label.length;
  // The features of the reading at hand, side by side: found faster than in the columns again for every test.
  const reading = new Float64Array(columns.length);
  for (let i = 0; i < labels.length; i++) {
    for (let k = 0; k < reading.length; k++) reading[k] = columns[k][i];
    let t = 0;
    for (let c = 0; c < clauses; c++) {
      const last = end[c];
      // Written out here, since a call for each test costs as much as the test.
      while (t < last) {
        const x = reading[column[t]];
        // Both ends reached makes a band hold, one of them is enough where it wraps; NaN reaches none.
        const ends = +(x >= from[t]) + +(x <= to[t]);
        const kind = how[t];
        if (kind < 2) {
          if (ends + kind < 2) break;
        } else if (ends + kind >= 4 || Number.isNaN(x)) break;
        t++;
      }
      if (t === last) {
        labels[i] = label[c];
        break;
      }
      t = last;
    }
  }
  return labels;
}
