import { type Remote, wrap } from "comlink";

/** A worker that broke off, took too long or was ended before it answered; the message is a sentence's beginning. */
export class WorkerGone extends Error {
  constructor(
    message: string,
    /** Whether it was ended on purpose: nobody need be told. */
    readonly wanted: boolean,
  ) {
    super(message);
  }
}

/** A worker with the way to ask it. */
export interface Thread<T> {
  worker: Worker;
  remote: Remote<T>;
}

export interface WorkerOptions<T> {
  /** How long one answer may take, in ms. */
  limitMs: number;
  /** What a new worker must be told before it is asked anything. */
  prepare?: (remote: Remote<T>) => Promise<unknown>;
  /** Hears that the worker broke off; the next question makes a new one. */
  broke?: (message: string) => void;
  /**
   * Threads that have nothing to do. One of them is taken where there is any, since its code has become quick, and one
   * is left there at the end; `prepare` has to make it forget what it did before.
   */
  spares?: Thread<T>[];
}

interface Made<T> extends Thread<T> {
  /** Ends its listening to the worker. */
  unlisten: () => void;
  prepared: Promise<unknown>;
  isPrepared: boolean;
  /** What waits for it to be prepared. */
  waiting: number;
  pending: Set<(reason: WorkerGone) => void>;
}

/** Events that tell that a worker broke off. */
const FAILURES = ["error", "messageerror"];

/** A worker that is made when it is first asked, and anew when it has died. Every question ends: by an answer or an error. */
export class WorkerLink<T> {
  private made: Made<T> | null = null;
  private ended = false;

  constructor(
    private readonly make: () => Worker,
    private readonly options: WorkerOptions<T>,
  ) {}

  /** Asks for an answer. @throws WorkerGone, or what the worker throws */
  async ask<R>(question: (remote: Remote<T>) => Promise<R>, limitMs = this.options.limitMs): Promise<R> {
    if (this.ended) throw new WorkerGone("this was ended", true);
    this.made ??= this.begin();
    const { made } = this;
    let give: (reason: WorkerGone) => void = () => undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const gone = new Promise<never>((_, fail) => {
      give = fail;
    });
    made.pending.add(give);
    if (Number.isFinite(limitMs))
      timer = setTimeout(() => this.lose(made, `it took more than ${Math.round(limitMs / 1000)} s`), limitMs);
    try {
      return await Promise.race([say(made, question), gone]);
    } finally {
      clearTimeout(timer);
      made.pending.delete(give);
    }
  }

  /** Tells the worker something, if there is one; a new one is told by `prepare`. One that cannot take it is lost. */
  tell(message: (remote: Remote<T>) => Promise<unknown>): void {
    const { made } = this;
    if (made !== null)
      say(made, message).catch((error: Error) => {
        if (this.made === made) this.lose(made, error.message);
      });
  }

  /** Ends what is under way; the next question makes a new worker. */
  cancel(): void {
    if (this.made !== null) this.drop(this.made, new WorkerGone("this was cancelled", true));
  }

  /** Ends it for good. A worker that has nothing to do is left to who comes next. */
  end(): void {
    this.ended = true;
    const { made } = this;
    const { spares } = this.options;
    if (made?.pending.size === 0 && spares?.length === 0) {
      this.made = null;
      made.unlisten();
      spares.push({ worker: made.worker, remote: made.remote });
    } else this.cancel();
  }

  private start(): Thread<T> {
    const worker = this.make();
    return { worker, remote: wrap<T>(worker) };
  }

  private begin(): Made<T> {
    const { worker, remote } = this.options.spares?.pop() ?? this.start();
    const made: Made<T> = {
      worker,
      remote,
      unlisten() {
        for (const type of FAILURES) worker.removeEventListener(type, died);
      },
      prepared: Promise.resolve(),
      isPrepared: false,
      waiting: 0,
      pending: new Set(),
    };
    const died = (event: Event) => {
      event.preventDefault();
      this.lose(made, (event as ErrorEvent).message || "its code could not be loaded");
    };
    for (const type of FAILURES) worker.addEventListener(type, died);
    made.prepared = this.options.prepare?.(remote) ?? Promise.resolve();
    made.prepared.then(
      () => {
        made.isPrepared = true;
      },
      () => undefined,
    );
    return made;
  }

  private lose(made: Made<T>, message: string): void {
    this.drop(made, new WorkerGone(message, false));
    this.options.broke?.(message);
  }

  private drop(made: Made<T>, reason: WorkerGone): void {
    made.worker.terminate();
    if (this.made === made) this.made = null;
    for (const give of made.pending) give(reason);
  }
}

/**
 * What prepares a worker comes before all else. One that is prepared hears at once, in the order in which it is told:
 * whoever asks may be about to draw, and the worker works meanwhile.
 */
async function say<T, R>(made: Made<T>, message: (remote: Remote<T>) => Promise<R>): Promise<R> {
  if (!made.isPrepared || made.waiting > 0) {
    made.waiting++;
    try {
      await made.prepared;
    } finally {
      made.waiting--;
    }
  }
  return message(made.remote);
}
