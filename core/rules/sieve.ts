import { FEATURE_FACTS, type Feature } from "../readings";
import { testHolds } from "./band";
import type { Test } from "./ruleSetSchema";

/** One clause, and the label that it gives. */
export interface LabelledClause {
  label: number;
  tests: readonly Test[];
}

/** So many clauses fit into the bits of one number. */
export const GROUP = 31;
/** Cells into which a feature's range is cut; NaN lies in one more. */
export const CELLS = 1024;

/** Which clauses a value of one feature lets stand, by the cell that it lies in. */
export interface Sieve {
  feature: Feature;
  /** Each clause's tests of the feature, written out, to be compared with others. */
  tests: readonly string[];
  /** Cells a unit; a value's cell is its product with this, rounded down: larger values never lie in smaller cells. */
  perUnit: number;
  /** The clauses that stand throughout each cell. */
  stand: Int32Array;
  /** The clauses with a bound in each cell: there their tests must be asked. */
  bounded: Int32Array;
  /** The clauses that a value of a cell lets stand. */
  ask(value: number, cell: number): number;
}

export function sieveOf(feature: Feature, clauses: readonly LabelledClause[]): Sieve {
  const tests = clauses.map((clause) => clause.tests.filter((t) => t.feature === feature));
  const perUnit = CELLS / FEATURE_FACTS[feature].max;
  const stand = new Int32Array(CELLS + 1);
  const bounded = new Int32Array(CELLS + 1);
  tests.forEach((own, bit) => {
    for (const { from, to } of own) {
      if (from !== undefined) bounded[cellOf(from, perUnit)] |= 1 << bit;
      if (to !== undefined) bounded[cellOf(to, perUnit)] |= 1 << bit;
    }
  });
  // NaN passes no test.
  stand.fill(tests.reduce((set, own, bit) => (own.length === 0 ? set | (1 << bit) : set), 0));
  tests.forEach((own, bit) => {
    if (own.length === 0) return;
    const holds = new Uint8Array(CELLS).fill(1);
    for (const test of own) dropCells(test, perUnit, holds);
    for (let cell = 0; cell < CELLS; cell++) if (holds[cell] === 1) stand[cell] |= 1 << bit;
  });
  return {
    feature,
    tests: tests.map((own) => JSON.stringify(own)),
    perUnit,
    stand,
    bounded,
    ask(value, cell) {
      let set = stand[cell];
      for (let left = bounded[cell]; left !== 0; left &= left - 1) {
        const bit = lowestBit(left);
        const own = tests[bit];
        let holds = true;
        for (let i = 0; holds && i < own.length; i++) holds = testHolds(own[i], value);
        if (holds) set |= 1 << bit;
      }
      return set;
    },
  };
}

export const lowestBit = (set: number) => 31 - Math.clz32(set & -set);

/** The cell of a value that is counted in cells; `CELLS` for NaN, which compares with nothing and so goes the last way. */
export const placeIn = (place: number) => (place >= CELLS ? CELLS - 1 : place >= 0 ? place | 0 : place < 0 ? 0 : CELLS);

const cellOf = (value: number, perUnit: number) => Math.max(0, Math.min(CELLS - 1, Math.floor(value * perUnit)));

/** Drops the cells in which a bound of the test lies, and those for whose values it does not hold. */
function dropCells({ from, to, not = false }: Test, perUnit: number, holds: Uint8Array): void {
  const low = from === undefined ? -1 : cellOf(from, perUnit);
  const high = to === undefined ? CELLS : cellOf(to, perUnit);
  const wraps = from !== undefined && to !== undefined && from > to;
  for (let cell = 0; cell < CELLS; cell++) {
    const within = wraps ? cell > low || cell < high : cell > low && cell < high;
    if (within === not || cell === low || cell === high) holds[cell] = 0;
  }
}

/** The clauses that a value lets stand. */
export function letsStand(sieve: Sieve, value: number): number {
  const cell = placeIn(value * sieve.perUnit);
  return sieve.bounded[cell] === 0 ? sieve.stand[cell] : sieve.ask(value, cell);
}
