import type { Feature, ReadingBlock } from "../readings";
import { CELLS, GROUP, type LabelledClause, lowestBit, placeIn, type Sieve, sieveOf } from "./sieve";

/** Labels of a block after those that it had before. */
export interface Relabelled {
  /** Not to be written to: the next rules start from them. */
  labels: Uint8Array<ArrayBuffer>;
  /** The readings whose label is another one, in no order, and which each was; null where any may be. */
  changed: { at: Uint32Array; was: Uint8Array } | null;
}

/**
 * What was found out about blocks when they were last labelled, to be handed in again with the next rules: a change of
 * rules mostly moves one bound, and then only the readings between where it was and where it is are asked again.
 */
export class SieveMemory {
  private readonly blocks = new WeakMap<ReadingBlock, BlockMemory>();

  /** Labels a block by the first clause that holds. */
  label(block: ReadingBlock, clauses: readonly LabelledClause[]): Relabelled {
    let known = this.blocks.get(block);
    if (known === undefined) {
      known = new BlockMemory(block);
      this.blocks.set(block, known);
    }
    return known.label(clauses);
  }
}

/** The readings of a block by the cell of one feature that they lie in. */
interface Places {
  /** Indices of readings, those of a cell together. */
  order: Uint32Array;
  /** Where each cell's begin, and at the end where the last one's end. */
  starts: Uint32Array;
}

/** Clauses that share a number, with what each feature lets stand of them for each reading. */
interface Group {
  labels: Uint8Array;
  all: number;
  features: readonly Feature[];
  found: Map<Feature, { sieve: Sieve; standing: Int32Array }>;
  /** Of the features, in their order. */
  standing: Int32Array[];
}

class BlockMemory {
  private readonly places = new Map<Feature, Places>();
  private groups: Group[] = [];
  private readonly labels: Uint8Array<ArrayBuffer>;
  /** The readings for which something else stands than before, so many of them. */
  private readonly changed: Uint32Array;
  private readonly was: Uint8Array;
  private count = 0;

  constructor(private readonly block: ReadingBlock) {
    this.labels = new Uint8Array(block.length);
    this.changed = new Uint32Array(block.length);
    this.was = new Uint8Array(block.length);
  }

  label(clauses: readonly LabelledClause[]): Relabelled {
    const before = this.groups;
    this.count = 0;
    this.groups = [];
    let alike = true;
    for (let start = 0; start < clauses.length; start += GROUP) {
      const own = clauses.slice(start, start + GROUP);
      const known = before[this.groups.length];
      const group: Group = {
        labels: Uint8Array.from(own, (c) => c.label),
        all: 2 ** own.length - 1,
        features: [...new Set(own.flatMap((c) => c.tests.map((t) => t.feature)))],
        found: known?.found ?? new Map(),
        standing: [],
      };
      alike &&=
        known !== undefined && String([known.labels, known.features]) === String([group.labels, group.features]);
      for (const feature of group.features) this.sift(group, sieveOf(feature, own));
      this.groups.push(group);
    }
    alike &&= before.length === this.groups.length;
    const { labels, changed, was } = this;
    if (!alike || this.count > labels.length / 2) {
      for (let i = 0; i < labels.length; i++) labels[i] = this.labelOf(i);
      return { labels, changed: null };
    }
    let others = 0;
    for (let k = 0; k < this.count; k++) {
      const i = changed[k];
      const label = this.labelOf(i);
      if (label === labels[i]) continue;
      changed[others] = i;
      was[others++] = labels[i];
      labels[i] = label;
    }
    return { labels, changed: { at: changed.subarray(0, others), was: was.subarray(0, others) } };
  }

  private labelOf(i: number): number {
    const { groups } = this;
    for (let g = 0; g < groups.length; g++) {
      const { all, standing, labels } = groups[g];
      let set = all;
      for (let f = 0; f < standing.length; f++) set &= standing[f][i];
      if (set !== 0) return labels[lowestBit(set)];
    }
    return 0;
  }

  /** Brings up to date what a feature lets stand, where it may have become something else. */
  private sift(group: Group, sieve: Sieve): void {
    const { feature } = sieve;
    const column = this.block.column(feature);
    const { order, starts } = this.placesOf(feature, sieve.perUnit);
    const known = group.found.get(feature);
    const standing = known?.standing ?? new Int32Array(column.length);
    const changes = known === undefined ? -1 : changedClauses(known.sieve.tests, sieve.tests);
    group.found.set(feature, { sieve, standing });
    group.standing.push(standing);
    if (changes === 0) return;
    for (let cell = 0; cell <= CELLS; cell++) {
      const bounded = sieve.bounded[cell];
      if (known !== undefined) {
        const was = known.sieve;
        const other = (was.stand[cell] ^ sieve.stand[cell]) | was.bounded[cell] | bounded;
        if ((other & changes) === 0) continue;
      }
      for (let k = starts[cell]; k < starts[cell + 1]; k++) {
        const i = order[k];
        const bits = bounded === 0 ? sieve.stand[cell] : sieve.ask(column[i], cell);
        if (standing[i] === bits) continue;
        standing[i] = bits;
        if (this.count < this.changed.length) this.changed[this.count++] = i;
      }
    }
  }

  private placesOf(feature: Feature, perUnit: number): Places {
    const known = this.places.get(feature);
    if (known !== undefined) return known;
    const column = this.block.column(feature);
    const starts = new Uint32Array(CELLS + 2);
    for (let i = 0; i < column.length; i++) starts[placeIn(column[i] * perUnit) + 1]++;
    for (let cell = 0; cell <= CELLS; cell++) starts[cell + 1] += starts[cell];
    const next = starts.slice();
    const order = new Uint32Array(column.length);
    for (let i = 0; i < column.length; i++) order[next[placeIn(column[i] * perUnit)]++] = i;
    const made = { order, starts };
    this.places.set(feature, made);
    return made;
  }
}

/** The clauses whose tests of a feature differ, a bit for each; one that is missing differs. */
function changedClauses(before: readonly string[], now: readonly string[]): number {
  let set = 0;
  for (let bit = 0; bit < Math.max(before.length, now.length); bit++) if (before[bit] !== now[bit]) set |= 1 << bit;
  return set;
}
