import { availableParallelism } from "node:os";
import { Piscina } from "piscina";
import { JOBS, type Jobs } from "./jobs";
import type { Task } from "./work.worker";

/** What is larger than this is worked on in a thread of its own, so that nobody else waits for it. */
export const LARGE_BYTES = 512 * 1024;
/** A piece of work that takes longer is given up. */
const LIMIT_MS = 120_000;
/** Room for a file of the largest size, parsed. */
const MOST_MEMORY_MB = 700;

/** The work took too long, or more memory than there is. */
export class WorkError extends Error {}

/** A thread that has nothing to do is kept for the next run so long, in ms. */
const IDLE_MS = 30_000;

type Input<J extends keyof Jobs> = Parameters<Jobs[J]>;
type Result<J extends keyof Jobs> = ReturnType<Jobs[J]>;

/** Does what takes long in threads, so that nobody else waits for it: a robot may be driven meanwhile. */
export class WorkPool {
  /** Large bodies, one after the other: several at once would fill the memory. The thread ends and gives it back. */
  private readonly large: Piscina<Task>;
  /** Runs, beside each other. */
  private readonly beside: Piscina<Task>;
  private last: Promise<unknown> = Promise.resolve();

  /** @param filename the built `work.worker` */
  constructor(filename: string) {
    const resourceLimits = { maxOldGenerationSizeMb: MOST_MEMORY_MB };
    this.large = new Piscina({ filename, resourceLimits, minThreads: 0, maxThreads: 1 });
    const maxThreads = Math.max(1, availableParallelism() - 1);
    this.beside = new Piscina({ filename, resourceLimits, minThreads: 0, maxThreads, idleTimeout: IDLE_MS });
  }

  /**
   * Does a job on a body of so many bytes and then `use`, before the next large one begins: its result takes memory,
   * too. A small body is worked on here.
   *
   * @throws WorkError where it took too long or needed too much memory
   */
  run<J extends keyof Jobs, T>(
    job: J,
    bytes: number,
    input: Input<J>,
    use: (result: Result<J>) => Promise<T>,
  ): Promise<T> {
    const work = JOBS[job] as unknown as (...input: Input<J>) => Result<J>;
    if (bytes <= LARGE_BYTES) return Promise.resolve(work(...input)).then(use);
    const done = this.last.then(() => inThread(this.large, job, input)).then(use);
    this.last = done.catch(() => undefined);
    return done;
  }

  /** Does a job in a thread, beside large bodies. @throws WorkError where it took too long or needed too much memory */
  runBeside<J extends keyof Jobs>(job: J, input: Input<J>): Promise<Result<J>> {
    return inThread(this.beside, job, input);
  }

  /** Ends all threads; what is under way is given up. */
  async end(): Promise<void> {
    await Promise.all([this.large.destroy(), this.beside.destroy()]);
  }
}

async function inThread<J extends keyof Jobs>(pool: Piscina<Task>, job: J, input: Input<J>): Promise<Result<J>> {
  try {
    return (await pool.run({ job, input }, { signal: AbortSignal.timeout(LIMIT_MS) })) as Result<J>;
  } catch (error) {
    const { name, code, message } = error as Error & { code?: string };
    if (name === "AbortError") throw new WorkError("this took too long and was given up; nothing was changed");
    if (code === "ERR_WORKER_OUT_OF_MEMORY")
      throw new WorkError("this needs more memory than there is; nothing was changed");
    if (/terminat|exit/i.test(message)) throw new WorkError("this was broken off; nothing was changed. Try again");
    throw error;
  }
}
