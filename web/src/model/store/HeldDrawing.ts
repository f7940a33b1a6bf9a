/** What is judged as quickly as this is drawn together with its judgement, in ms; what takes longer is drawn before it. */
const LIMIT_MS = 25;

/**
 * Holds back what a drag changes on the page until its judgement is there too, so that a move is drawn once and not
 * twice. The store has the change at once; only its listeners hear of it later.
 */
export class HeldDrawing {
  private held: (() => void) | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** How many more are waited for, and whether all else is there. */
  private more = 0;
  private isReady = false;

  /** Holds back what tells the listeners. */
  readonly hold = (tell: () => void): void => {
    this.held = tell;
    this.isReady = false;
    clearTimeout(this.timer);
    this.timer = setTimeout(this.drawNow, LIMIT_MS);
  };

  /** Waits for one more, such as a camera's mask, until what is given back is called. */
  readonly holdMore = (): (() => void) => {
    this.more++;
    return () => {
      this.more--;
      if (this.isReady) this.draw();
    };
  };

  /** The judgement is there: what is held is drawn as soon as nothing else is waited for. */
  readonly draw = (): void => {
    this.isReady = true;
    if (this.more === 0) this.drawNow();
  };

  private readonly drawNow = (): void => {
    clearTimeout(this.timer);
    const { held } = this;
    this.held = null;
    held?.();
  };
}
