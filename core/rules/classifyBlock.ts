import type { TargetId } from "../names";
import { FEATURE_FACTS, type Feature, type ReadingBlock } from "../readings";
import { testHolds } from "./band";
import { nearestBlock } from "./nearest";
import type { Rule, RuleSet, Test } from "./ruleSetSchema";

/**
 * Labels of many readings as numbers: 0 is unknown, k is the k-th of `targets`, counted from 1.
 */
export type Labels = Uint8Array<ArrayBuffer>;

/** One clause, and the label that it gives. */
interface LabelledClause {
  label: number;
  tests: readonly Test[];
}

/** So many clauses fit into the bits of one number. */
const GROUP = 31;
/** Cells into which a feature's range is cut. */
const CELLS = 1024;
/** Readings taken together, so that their bits stay in the fastest cache. */
const STRIDE = 2048;

/**
 * What was found out about blocks when they were last labelled, to be handed in again with the next rules: a change of
 * rules mostly concerns one feature, and only that one is then gone through anew.
 */
export type SieveMemory = WeakMap<ReadingBlock, Map<string, Remembered>>;

/** What was found out of one feature of a block. */
interface Remembered {
  /** The tests that it was gone through with. */
  tests: string;
  /** The clauses that they let stand for each reading. */
  standing: Int32Array;
  /** The cell that each reading lies in, whatever the tests; `CELLS` for NaN. */
  cells: Uint16Array;
}

/**
 * Labels a whole block, reading by reading the same as `classify`. Each clause is a bit. A feature's range is cut into
 * cells, and for each cell it is known beforehand which clauses a value there lets stand; only in a cell that holds a
 * bound are the tests asked one by one. What is left after all features is the set of clauses that hold, and its
 * lowest bit is the first of them.
 *
 * @param targets the order that the labels count in; a rule whose target is not among them labels 0.
 * @param memory of earlier rules on the same block, which it takes less time to change a little.
 * @throws RangeError for more than 255 targets.
 */
export function classifyBlock(
  ruleSet: RuleSet,
  block: ReadingBlock,
  targets: readonly TargetId[],
  memory?: SieveMemory,
): Labels {
  if (targets.length > 255) throw new RangeError(`at most 255 targets can be told apart, not ${targets.length}`);
  if (ruleSet.method === "nearest") {
    const labels = new Uint8Array(block.length);
    nearestBlock(ruleSet, block, labels, (reference) => targets.indexOf(reference.target) + 1);
    return labels;
  }
  return byFirstClause(
    clausesOf(ruleSet, (rule) => targets.indexOf(rule.target) + 1),
    block,
    memory,
  );
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
function byFirstClause(clauses: readonly LabelledClause[], block: ReadingBlock, memory?: SieveMemory): Labels {
  const labels = new Uint8Array(block.length);
  // From the last group to the first, so that the first clause that holds has the last word.
  for (let start = Math.floor(Math.max(0, clauses.length - 1) / GROUP) * GROUP; start >= 0; start -= GROUP) {
    const group = clauses.slice(start, start + GROUP);
    const sieves = sievesOf(group);
    if (memory === undefined) labelBySieves(group, sieves, block, labels);
    else {
      const passed = sieves.map((sieve) => remembered(memory, block, `${start} ${sieve.feature}`, sieve));
      labelByStanding(group, passed, labels);
    }
  }
  return labels;
}

const sievesOf = (clauses: readonly LabelledClause[]) =>
  [...new Set(clauses.flatMap((c) => c.tests.map((t) => t.feature)))].map((f) => sieveOf(f, clauses));

const setOfAll = (clauses: readonly LabelledClause[]) => 2 ** clauses.length - 1;
/** The label of each clause, by the place of its bit. */
const labelsOf = (clauses: readonly LabelledClause[]) => Uint8Array.from(clauses, (c) => c.label);
const lowestBit = (set: number) => 31 - Math.clz32(set & -set);

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

/** Which clauses one feature lets stand for each reading of a block, as it was found last if its tests are still the same. */
function remembered(memory: SieveMemory, block: ReadingBlock, place: string, sieve: Sieve): Int32Array {
  const ofBlock = memory.get(block) ?? new Map<string, Remembered>();
  memory.set(block, ofBlock);
  const known = ofBlock.get(place);
  if (known?.tests === sieve.tests) return known.standing;
  const column = block.column(sieve.feature);
  const cells = known?.cells ?? placesOf(column, sieve.perUnit);
  const standing = known?.standing ?? new Int32Array(block.length);
  for (let i = 0; i < standing.length; i++) {
    const bits = cells[i] === CELLS ? sieve.untested : sieve.cells[cells[i]];
    standing[i] = bits !== ASK ? bits : sieve.ask(column[i]);
  }
  ofBlock.set(place, { tests: sieve.tests, standing, cells });
  return standing;
}

function placesOf(column: Float64Array, perUnit: number): Uint16Array {
  const cells = new Uint16Array(column.length);
  for (let i = 0; i < cells.length; i++) cells[i] = placeIn(column[i] * perUnit);
  return cells;
}

/** Labels by the clauses that each feature lets stand. */
function labelByStanding(clauses: readonly LabelledClause[], passed: readonly Int32Array[], labels: Labels): void {
  const all = setOfAll(clauses);
  const label = labelsOf(clauses);
  // Most rules test up to four features; one that is taken twice changes nothing.
  const [a = new Int32Array(labels.length).fill(-1), b = a, c = a, d = a] = passed;
  const more = passed.slice(4);
  for (let i = 0; i < labels.length; i++) {
    let set = a[i] & b[i] & c[i] & d[i] & all;
    for (let k = 0; k < more.length; k++) set &= more[k][i];
    if (set !== 0) labels[i] = label[lowestBit(set)];
  }
}

/** Which clauses a value of one feature lets stand, by the cell that it lies in. */
interface Sieve {
  feature: Feature;
  /** The tests of the feature, written out, to be compared with others. */
  tests: string;
  /** Cells a unit; a value's cell is its product with this, rounded down: larger values never lie in smaller cells. */
  perUnit: number;
  /** The clauses that stand, for each cell; `ASK` where a bound lies in the cell. */
  cells: Int32Array;
  /** The clauses that do not test the feature: NaN lets only these stand. */
  untested: number;
  ask(value: number): number;
}

/** Marks a cell in which the tests must be asked; no set of 31 clauses is negative. */
const ASK = -1;

function sieveOf(feature: Feature, clauses: readonly LabelledClause[]): Sieve {
  const tests = clauses.map((clause) => clause.tests.filter((t) => t.feature === feature));
  const perUnit = CELLS / FEATURE_FACTS[feature].max;
  const cells = new Int32Array(CELLS);
  for (let cell = 0; cell < CELLS; cell++) {
    tests.forEach((own, bit) => {
      if (own.every((test) => cellHolds(test, cell, perUnit))) cells[cell] |= 1 << bit;
    });
  }
  for (const { from, to } of tests.flat()) {
    if (from !== undefined) cells[cellOf(from, perUnit)] = ASK;
    if (to !== undefined) cells[cellOf(to, perUnit)] = ASK;
  }
  return {
    feature,
    tests: JSON.stringify(tests),
    perUnit,
    cells,
    untested: tests.reduce((bits, own, bit) => (own.length === 0 ? bits | (1 << bit) : bits), 0),
    ask: (value) =>
      tests.reduce((bits, own, bit) => (own.every((t) => testHolds(t, value)) ? bits | (1 << bit) : bits), 0),
  };
}

/** The cell of a value that is counted in cells; `CELLS` for NaN, which compares with nothing and so goes the last way. */
const placeIn = (place: number) => (place >= CELLS ? CELLS - 1 : place >= 0 ? place | 0 : place < 0 ? 0 : CELLS);

const cellOf = (value: number, perUnit: number) => Math.max(0, Math.min(CELLS - 1, Math.floor(value * perUnit)));

/** Whether a test holds for all values of a cell in which neither of its bounds lies. */
function cellHolds({ from, to, not = false }: Test, cell: number, perUnit: number): boolean {
  const above = from === undefined || cell > cellOf(from, perUnit);
  const below = to === undefined || cell < cellOf(to, perUnit);
  const wraps = from !== undefined && to !== undefined && from > to;
  return (wraps ? above || below : above && below) !== not;
}

/** Takes out of each reading's set the clauses that its value of one feature does not let stand. */
function passThrough(sieve: Sieve, column: Float64Array, start: number, size: number, standing: Int32Array): void {
  const { perUnit, cells, untested } = sieve;
  for (let i = 0; i < size; i++) {
    const value = column[start + i];
    const cell = placeIn(value * perUnit);
    if (cell === CELLS) standing[i] &= untested;
    else {
      const bits = cells[cell];
      standing[i] &= bits !== ASK ? bits : sieve.ask(value);
    }
  }
}
