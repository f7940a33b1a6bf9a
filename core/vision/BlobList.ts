import type { BitMask } from "./BitMask";

/** A connected part of a mask, in px of the upright frame: how many pixels, and the box around them. */
export interface FoundBlob {
  area: number;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Numbers kept of each blob. */
const FIELDS = 5;
const [AREA, LEFT, TOP, RIGHT, BOTTOM] = [0, 1, 2, 3, 4];
/** Places for so many at first. */
const FIRST = 256;

const grown = (array: Int32Array<ArrayBuffer>): Int32Array<ArrayBuffer> => {
  const larger = new Int32Array(array.length * 2);
  larger.set(array);
  return larger;
};

/** The blobs of one mask: parts whose pixels touch at a side or a corner. It is used again for the next mask. */
export class BlobList {
  /** Runs of pixels, each with the first column, the first behind it, and the blob that it belongs to. */
  private runs = new Int32Array(3 * FIRST);
  /** What is known of each blob, by the number that it was first given. */
  private known = new Int32Array(FIELDS * FIRST);
  /** The blob that a blob turned out to be part of; itself where it is whole. */
  private part = new Int32Array(FIRST);
  /** The whole ones, the largest first. */
  private order = new Int32Array(FIRST);
  private count = 0;
  private found = 0;
  private readonly run = new Int32Array(2);

  /** How many blobs there are. */
  get length(): number {
    return this.found;
  }

  /** Finds the blobs of a mask that have at least `minArea` pixels: the largest first, then the upper, then the left. */
  find(mask: BitMask, minArea: number): void {
    this.count = 0;
    let above = 0;
    let aboveEnd = 0;
    const [first, last] = mask.span;
    let before = first - 2;
    for (let row = first; row < last; row++) {
      // Runs of the row above lie before those of this one, unless that row is not the one above.
      const own = aboveEnd;
      let end = own;
      let up = before === row - 1 ? above : aboveEnd;
      for (let column = 0; mask.nextRun(row, column, this.run); column = this.run[1]) {
        const [from, to] = this.run;
        if (3 * (end + 1) > this.runs.length) this.runs = grown(this.runs);
        const { runs } = this;
        let blob = -1;
        while (up < aboveEnd && runs[3 * up + 1] < from) up++;
        // Those that touch it from above, corners included; the last may touch the next one, too.
        for (let k = up; k < aboveEnd && runs[3 * k] <= to; k++) {
          const touched = this.wholeOf(runs[3 * k + 2]);
          blob = blob < 0 ? touched : this.joined(blob, touched);
        }
        if (blob < 0) blob = this.fresh(from, row);
        this.add(blob, from, to, row);
        runs[3 * end] = from;
        runs[3 * end + 1] = to;
        runs[3 * end + 2] = blob;
        end++;
      }
      if (end > own) {
        // Only the row above is asked, so that two rows of runs are enough.
        this.runs.copyWithin(0, 3 * own, 3 * end);
        above = 0;
        aboveEnd = end - own;
        before = row;
      }
    }
    this.sort(minArea);
  }

  private fresh(left: number, top: number): number {
    const blob = this.count++;
    if (blob === this.part.length) {
      this.part = grown(this.part);
      this.order = grown(this.order);
      this.known = grown(this.known);
    }
    this.part[blob] = blob;
    const at = blob * FIELDS;
    this.known[at + AREA] = 0;
    this.known[at + LEFT] = left;
    this.known[at + TOP] = top;
    this.known[at + RIGHT] = left;
    this.known[at + BOTTOM] = top + 1;
    return blob;
  }

  private add(blob: number, from: number, to: number, row: number): void {
    const { known } = this;
    const at = blob * FIELDS;
    known[at + AREA] += to - from;
    if (from < known[at + LEFT]) known[at + LEFT] = from;
    if (to > known[at + RIGHT]) known[at + RIGHT] = to;
    known[at + BOTTOM] = row + 1;
  }

  private wholeOf(blob: number): number {
    const { part } = this;
    let whole = blob;
    while (part[whole] !== whole) {
      part[whole] = part[part[whole]];
      whole = part[whole];
    }
    return whole;
  }

  /** Two blobs turn out to be one; which it is called by. */
  private joined(a: number, b: number): number {
    if (a === b) return a;
    const [whole, gone] = a < b ? [a, b] : [b, a];
    const { known } = this;
    const [to, from] = [whole * FIELDS, gone * FIELDS];
    this.part[gone] = whole;
    known[to + AREA] += known[from + AREA];
    known[to + LEFT] = Math.min(known[to + LEFT], known[from + LEFT]);
    known[to + TOP] = Math.min(known[to + TOP], known[from + TOP]);
    known[to + RIGHT] = Math.max(known[to + RIGHT], known[from + RIGHT]);
    known[to + BOTTOM] = Math.max(known[to + BOTTOM], known[from + BOTTOM]);
    return whole;
  }

  /** Whether a blob comes before another. */
  private precedes(a: number, b: number): boolean {
    const { known } = this;
    const [i, k] = [a * FIELDS, b * FIELDS];
    if (known[i + AREA] !== known[k + AREA]) return known[i + AREA] > known[k + AREA];
    if (known[i + TOP] !== known[k + TOP]) return known[i + TOP] < known[k + TOP];
    return known[i + LEFT] < known[k + LEFT];
  }

  private sort(minArea: number): void {
    const { order } = this;
    this.found = 0;
    for (let blob = 0; blob < this.count; blob++)
      if (this.part[blob] === blob && this.known[blob * FIELDS + AREA] >= minArea) order[this.found++] = blob;
    // Sifted in place: an array would be made for a comparison function.
    for (let from = (this.found >> 1) - 1; from >= 0; from--) this.sift(from, this.found);
    for (let end = this.found - 1; end > 0; end--) {
      [order[0], order[end]] = [order[end], order[0]];
      this.sift(0, end);
    }
  }

  /** Lets a blob sink among those below it, so that the last in order stands above the others. */
  private sift(from: number, end: number): void {
    const { order } = this;
    for (let at = from; ; ) {
      let last = at;
      for (let below = 2 * at + 1; below <= 2 * at + 2 && below < end; below++)
        if (this.precedes(order[last], order[below])) last = below;
      if (last === at) return;
      [order[at], order[last]] = [order[last], order[at]];
      at = last;
    }
  }

  /** The k-th blob, in px of the frame whose strip begins at `left` and `top`. */
  blob(k: number, left = 0, top = 0): FoundBlob {
    const { known } = this;
    const at = this.order[k] * FIELDS;
    return {
      area: known[at + AREA],
      left: left + known[at + LEFT],
      top: top + known[at + TOP],
      width: known[at + RIGHT] - known[at + LEFT],
      height: known[at + BOTTOM] - known[at + TOP],
    };
  }
}
