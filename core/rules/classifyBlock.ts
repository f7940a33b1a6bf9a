import type { TargetId } from "../names";
import type { ReadingBlock } from "../readings";
import { nearestBlock } from "./nearest";
import type { Rule, RuleSet } from "./ruleSetSchema";
import type { Relabelled, SieveMemory } from "./SieveMemory";
import { GROUP, type LabelledClause, lowestBit, placeIn, type Sieve, sieveOf } from "./sieve";

/**
 * Labels of many readings as numbers: 0 is unknown, k is the k-th of `targets`, counted from 1.
 */
export type Labels = Uint8Array<ArrayBuffer>;

/** Readings taken together, so that their bits stay in the fastest cache. */
const STRIDE = 2048;

/**
 * Labels a whole block, reading by reading the same as `classify`. Each clause is a bit. A feature's range is cut into
 * cells, and for each cell it is known beforehand which clauses a value there lets stand; only in a cell that holds a
 * bound are the tests asked one by one. What is left after all features is the set of clauses that hold, and its
 * lowest bit is the first of them.
 *
 * @param targets the order that the labels count in; a rule whose target is not among them labels 0.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlock(ruleSet: RuleSet, block: ReadingBlock, targets: readonly TargetId[]): Labels {
  if (ruleSet.method === "bands") return byFirstClause(clausesFor(ruleSet, targets), block);
  const labels = new Uint8Array(block.length);
  const labelOf = labelIn(targets);
  nearestBlock(ruleSet, block, labels, (reference) => labelOf(reference.target));
  return labels;
}

/**
 * The same with a memory of earlier rules on the same block, which it takes less time to change a little.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlockAgain(
  ruleSet: RuleSet,
  block: ReadingBlock,
  targets: readonly TargetId[],
  memory: SieveMemory,
): Relabelled {
  if (ruleSet.method === "bands") return memory.label(block, clausesFor(ruleSet, targets));
  return { labels: classifyBlock(ruleSet, block, targets), changed: null };
}

function labelIn(targets: readonly TargetId[]): (target: TargetId) => number {
  if (targets.length > 255) throw new RangeError(`at most 255 targets can be told apart, not ${targets.length}`);
  return (target) => targets.indexOf(target) + 1;
}

function clausesFor(ruleSet: RuleSet, targets: readonly TargetId[]): LabelledClause[] {
  const labelOf = labelIn(targets);
  return clausesOf(ruleSet, (rule) => labelOf(rule.target));
}

/**
 * Which rule takes each reading of a block, by its place among the rules from 1; 0 where none does. Of a set of bands,
 * whatever method it uses.
 */
export const rulesOfBlock = (ruleSet: RuleSet, block: ReadingBlock): Labels =>
  byFirstClause(
    clausesOf(ruleSet, (_, i) => i + 1),
    block,
  );

/** The clauses of the rules that are on, in their order, each with the label that `label` gives its rule. */
const clausesOf = ({ rules }: RuleSet, label: (rule: Rule, index: number) => number): LabelledClause[] =>
  rules.flatMap((rule, i) => (rule.on ? rule.any.map(({ all }) => ({ label: label(rule, i), tests: all })) : []));

/** Labels a block by the first clause that holds. */
function byFirstClause(clauses: readonly LabelledClause[], block: ReadingBlock): Labels {
  const labels = new Uint8Array(block.length);
  // From the last group to the first, so that the first clause that holds has the last word.
  for (let start = Math.floor(Math.max(0, clauses.length - 1) / GROUP) * GROUP; start >= 0; start -= GROUP) {
    const group = clauses.slice(start, start + GROUP);
    labelBySieves(group, sievesOf(group), block, labels);
  }
  return labels;
}

const sievesOf = (clauses: readonly LabelledClause[]) =>
  [...new Set(clauses.flatMap((c) => c.tests.map((t) => t.feature)))].map((f) => sieveOf(f, clauses));

const setOfAll = (clauses: readonly LabelledClause[]) => 2 ** clauses.length - 1;
/** The label of each clause, by the place of its bit. */
const labelsOf = (clauses: readonly LabelledClause[]) => Uint8Array.from(clauses, (c) => c.label);

function labelBySieves(
  clauses: readonly LabelledClause[],
  sieves: readonly Sieve[],
  block: ReadingBlock,
  labels: Labels,
): void {
  const columns = sieves.map((sieve) => block.column(sieve.feature));
  const label = labelsOf(clauses);
  const standing = new Int32Array(STRIDE);
  for (let start = 0; start < labels.length; start += STRIDE) {
    const size = Math.min(STRIDE, labels.length - start);
    standing.fill(setOfAll(clauses), 0, size);
    sieves.forEach((sieve, k) => {
      passThrough(sieve, columns[k], start, size, standing);
    });
    for (let i = 0; i < size; i++) if (standing[i] !== 0) labels[start + i] = label[lowestBit(standing[i])];
  }
}

/** Takes out of each reading's set the clauses that its value of one feature does not let stand. */
function passThrough(sieve: Sieve, column: Float64Array, start: number, size: number, standing: Int32Array): void {
  const { perUnit, stand, bounded } = sieve;
  for (let i = 0; i < size; i++) {
    const value = column[start + i];
    const cell = placeIn(value * perUnit);
    standing[i] &= bounded[cell] === 0 ? stand[cell] : sieve.ask(value, cell);
  }
}
