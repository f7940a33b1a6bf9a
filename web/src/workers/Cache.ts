/** Keeps what was used last, as long as all of it together weighs no more than so much. */
export class Cache<V> {
  private readonly kept = new Map<string, V>();
  private weight = 0;

  constructor(
    private readonly most: number,
    private readonly weigh: (value: V) => number,
  ) {}

  get(key: string): V | undefined {
    const value = this.kept.get(key);
    if (value === undefined) return undefined;
    this.kept.delete(key);
    this.kept.set(key, value);
    return value;
  }

  set(key: string, value: V): void {
    const before = this.kept.get(key);
    if (before !== undefined) this.weight -= this.weigh(before);
    this.kept.delete(key);
    this.kept.set(key, value);
    this.weight += this.weigh(value);
    for (const [oldest, old] of this.kept) {
      if (this.weight <= this.most || this.kept.size === 1) break;
      this.kept.delete(oldest);
      this.weight -= this.weigh(old);
    }
  }
}
