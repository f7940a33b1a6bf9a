import { type Clean, MOST_CLEAN } from "../readings";

/** Rows left free above and below a mask, so that two squares can reach over its edges. */
const MARGIN = 2 * MOST_CLEAN;

/**
 * The cleaned pixels of one target in a strip. A square is taken together along rows and along columns, in either order:
 * runs lose their ends as they are put in, columns are taken together a bit each, and rows are widened as runs are read.
 */
export class BitMask {
  private readonly words: Int32Array;
  /** Words a row. */
  private readonly long: number;
  /** Where the first row now stands: taking rows together moves them up. */
  private at = MARGIN;
  /** The first row that may hold a pixel, and the first behind the last that may. */
  private from = 0;
  private to = 0;

  constructor(
    readonly width: number,
    readonly height: number,
    private readonly clean: Clean,
  ) {
    this.long = (width + 31) >> 5;
    this.words = new Int32Array(this.long * (height + 2 * MARGIN));
  }

  /** Empties it. */
  clear(): void {
    this.words.fill(0);
    this.at = MARGIN;
    this.from = 0;
    this.to = 0;
  }

  /** Puts in the pixels of a row from one to before another; rows come from the top. */
  add(row: number, start: number, end: number): void {
    const { words, clean } = this;
    const from = start + clean.erode;
    const to = end - clean.erode;
    if (from >= to) return;
    if (this.to === 0) this.from = row;
    this.to = row + 1;
    const base = (row + MARGIN) * this.long;
    const last = to - 1;
    const i = base + (from >> 5);
    const k = base + (last >> 5);
    const behind = -1 << (from & 31);
    const upTo = -1 >>> (31 - (last & 31));
    if (i === k) words[i] |= behind & upTo;
    else {
      words[i] |= behind;
      for (let word = i + 1; word < k; word++) words[word] = -1;
      words[k] |= upTo;
    }
  }

  /** Cleans it, once all of it has been put in. */
  finish(): void {
    if (this.to === 0) return;
    const { words, long, height, clean } = this;
    const { erode, dilate } = clean;
    const last = (MARGIN + this.to) * long;
    for (const by of stepsTo(2 * erode + 1)) bothBelow(words, by * long, (this.at + this.from - erode) * long, last);
    this.at -= erode;
    this.from += erode;
    this.to -= erode;
    if (this.from >= this.to) {
      this.from = 0;
      this.to = 0;
      return;
    }
    const first = this.at - dilate + Math.max(0, this.from - dilate);
    for (const by of stepsTo(2 * dilate + 1)) eitherBelow(words, by * long, first * long, (this.at + this.to) * long);
    this.at -= dilate;
    this.from = Math.max(0, this.from - dilate);
    this.to = Math.min(height, this.to + dilate);
  }

  /** The first row that may hold a pixel, and the first behind the last that may. */
  get span(): readonly [number, number] {
    return [this.from, this.to];
  }

  has(column: number, row: number): boolean {
    if (row < this.from || row >= this.to) return false;
    const { dilate } = this.clean;
    return this.next(row, Math.max(0, column - dilate), 0) <= Math.min(this.width - 1, column + dilate);
  }

  /**
   * The next run of pixels of a row at or behind `column`, which is 0 or the end of the run before: `out` gets its first
   * pixel and the first behind it. False where there is none.
   */
  nextRun(row: number, column: number, out: Int32Array): boolean {
    const { width, clean } = this;
    const from = this.next(row, column, 0);
    if (from >= width) return false;
    let to = this.next(row, from, -1);
    // Runs that touch once they are widened are one.
    for (let other = from; clean.dilate > 0; ) {
      other = this.next(row, to, 0);
      if (other >= width || other > to + 2 * clean.dilate) break;
      to = this.next(row, other, -1);
    }
    out[0] = Math.max(0, from - clean.dilate);
    out[1] = Math.min(width, to + clean.dilate);
    return true;
  }

  /** The first column at or behind one whose bit is set, or with `flip` −1 unset; the mask's width where none is. */
  private next(row: number, column: number, flip: 0 | -1): number {
    const { words, width } = this;
    if (column >= width) return width;
    const base = (row + this.at) * this.long;
    let i = column >> 5;
    let word = (words[base + i] ^ flip) & (-1 << (column & 31));
    while (word === 0) {
      if (++i === this.long) return width;
      word = words[base + i] ^ flip;
    }
    return Math.min(width, (i << 5) + 31 - Math.clz32(word & -word));
  }
}

/** By how many rows one goes on in each step until so many are taken together: 1, 2, 4 …, and the rest. */
function stepsTo(side: number): readonly number[] {
  STEPS[side] ??= (() => {
    const steps: number[] = [];
    let taken = 1;
    for (; taken * 2 <= side; taken *= 2) steps.push(taken);
    if (taken < side) steps.push(side - taken);
    return steps;
  })();
  return STEPS[side];
}
const STEPS: number[][] = [];

/** Takes each word together with the one so many places on: both must be set. */
function bothBelow(words: Int32Array, away: number, first: number, last: number): void {
  const end = Math.min(last, words.length - away);
  for (let i = first; i < end; i++) words[i] &= words[i + away];
}

/** The same where one of them is enough. */
function eitherBelow(words: Int32Array, away: number, first: number, last: number): void {
  const end = Math.min(last, words.length - away);
  for (let i = first; i < end; i++) words[i] |= words[i + away];
}
