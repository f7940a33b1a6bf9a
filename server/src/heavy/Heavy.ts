import { Worker } from "node:worker_threads";
import { JOBS, type Jobs } from "./jobs";

/** What is larger than this is worked on in a thread of its own, so that nobody else waits for it. */
export const LARGE_BYTES = 512 * 1024;
/** A piece of work that takes longer is given up. */
const LIMIT_MS = 120_000;
/** Room for a file of the largest size, parsed. */
const MOST_MEMORY_MB = 700;

/** The work took too long, or more memory than there is. */
export class HeavyError extends Error {}

/** Runs jobs here if they are small, else one after the other in a worker: several at once would fill the memory. */
export class Heavy {
  private last: Promise<unknown> = Promise.resolve();

  constructor(private readonly worker: string) {}

  /**
   * Runs a job on a body of so many bytes and then `use`, before the next large one begins: its result takes memory,
   * too.
   */
  run<J extends keyof Jobs, T>(
    job: J,
    bytes: number,
    input: Parameters<Jobs[J]>,
    use: (result: ReturnType<Jobs[J]>) => Promise<T>,
  ): Promise<T> {
    const work = JOBS[job] as unknown as (...input: Parameters<Jobs[J]>) => ReturnType<Jobs[J]>;
    if (bytes <= LARGE_BYTES) return Promise.resolve(work(...input)).then(use);
    const done = this.last.then(() => this.inWorker(job, input)).then(use);
    this.last = done.catch(() => undefined);
    return done;
  }

  private inWorker<J extends keyof Jobs>(job: J, input: Parameters<Jobs[J]>): Promise<ReturnType<Jobs[J]>> {
    return new Promise((resolve, reject) => {
      const worker = new Worker(this.worker, {
        workerData: { job, input },
        resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
      });
      const timer = setTimeout(() => {
        reject(new HeavyError("this took too long and was given up; nothing was changed"));
        void worker.terminate();
      }, LIMIT_MS);
      worker.once("message", resolve);
      worker.once("error", (error: Error & { code?: string }) =>
        reject(
          error.code === "ERR_WORKER_OUT_OF_MEMORY"
            ? new HeavyError("this needs more memory than there is; nothing was changed")
            : error,
        ),
      );
      worker.once("exit", () => {
        clearTimeout(timer);
        reject(new HeavyError("this was broken off; nothing was changed. Try again"));
      });
    });
  }
}
