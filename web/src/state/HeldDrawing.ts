/** What is judged as quickly as this is drawn together with its judgement, in ms; what takes longer is drawn before it. */
const LIMIT_MS = 25;

/**
 * Holds back what a drag changes on the page until its judgement is there too, so that a move is drawn once and not
 * twice. The store has the change at once; only its listeners hear of it later.
 */
export class HeldDrawing {
  private held: (() => void) | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Holds back what tells the listeners. */
  readonly hold = (tell: () => void): void => {
    this.held = tell;
    clearTimeout(this.timer);
    this.timer = setTimeout(this.draw, LIMIT_MS);
  };

  /** Nothing is waited for any more. */
  readonly draw = (): void => {
    clearTimeout(this.timer);
    const { held } = this;
    this.held = null;
    held?.();
  };
}
