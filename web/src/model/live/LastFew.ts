/**
 * Does work for things one after another, in their order. Of those that wait meanwhile only the last few stay: where they
 * come faster than the work goes, old ones give way, and none is begun that nobody has any more.
 */
export class LastFew<T> {
  private waiting: T[] = [];
  private busy = false;

  /**
   * @param most so many wait at most
   * @param work is done for each that stays; where it fails the thing counts as passed over
   * @param passedOver hears of each for which nothing was done
   */
  constructor(
    private readonly most: number,
    private readonly work: (thing: T) => Promise<void>,
    private readonly passedOver: () => void,
  ) {}

  push(thing: T): void {
    this.waiting.push(thing);
    if (this.waiting.length > this.most) {
      this.waiting.shift();
      this.passedOver();
    }
    if (!this.busy) void this.run();
  }

  private async run(): Promise<void> {
    this.busy = true;
    for (let thing = this.waiting.shift(); thing !== undefined; thing = this.waiting.shift())
      await this.work(thing).catch(() => this.passedOver());
    this.busy = false;
  }
}
