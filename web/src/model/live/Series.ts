/** Room for so many numbers at first. */
const FIRST_ROOM = 1024;

/** Numbers that come one after another. A view of them copies nothing, and stays as it is while more come. */
export class Series {
  private values = new Float64Array(FIRST_ROOM);
  private start = 0;
  private end = 0;

  get length(): number {
    return this.end - this.start;
  }

  get last(): number | undefined {
    return this.length === 0 ? undefined : this.values[this.end - 1];
  }

  push(value: number): void {
    if (this.end === this.values.length) this.moveOn();
    this.values[this.end++] = value;
  }

  /** Drops the first so many. */
  drop(count: number): void {
    this.start += Math.min(count, this.length);
  }

  /** Those from the place `from` on. */
  view(from: number): Float64Array<ArrayBuffer> {
    return this.values.subarray(Math.min(this.start + from, this.end), this.end);
  }

  /** Into an array with room for as many again: what was given out keeps the old one. */
  private moveOn(): void {
    const kept = this.view(0);
    this.values = new Float64Array(Math.max(FIRST_ROOM, 2 * kept.length));
    this.values.set(kept);
    this.start = 0;
    this.end = kept.length;
  }
}
