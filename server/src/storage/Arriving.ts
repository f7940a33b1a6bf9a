/** What is on its way in: until something names it, it looks like what may be cleared away. */
export class Arriving {
  private count = 0;

  /** Whether anything is. */
  get any(): boolean {
    return this.count > 0;
  }

  /** Does work that keeps things and then names them; nothing may be cleared away meanwhile. */
  async during<T>(work: () => Promise<T>): Promise<T> {
    this.count++;
    try {
      return await work();
    } finally {
      this.count--;
    }
  }
}
