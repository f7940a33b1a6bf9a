/**
 * Runs one job at a time and, when it is done, only the latest of those asked for meanwhile: a drag asks faster than
 * a worker answers, and what lies between is of no interest.
 */
export class LatestOnly<I> {
  private busy = false;
  private next: I | undefined;

  /** @param failed hears of a job that threw; what was asked for meanwhile is done all the same */
  constructor(
    private readonly job: (input: I) => Promise<void>,
    private readonly failed: (error: unknown) => void,
  ) {}

  ask(input: I): void {
    if (this.busy) this.next = input;
    else void this.start(input);
  }

  private async start(input: I): Promise<void> {
    this.busy = true;
    try {
      await this.job(input);
    } catch (error) {
      this.failed(error);
    }
    this.busy = false;
    const { next } = this;
    this.next = undefined;
    if (next !== undefined) void this.start(next);
  }
}
