import { parentPort, workerData } from "node:worker_threads";
import { JOBS, type Jobs } from "./jobs";

/** One piece of work in a thread of its own, which ends with it and gives its memory back. */
const { job, input } = workerData as { job: keyof Jobs; input: unknown[] };
const work = JOBS[job] as (...input: unknown[]) => unknown;
const result = work(...input);
parentPort?.postMessage(result, buffersOf(result));

/** All typed arrays in a result: they are handed over, not copied. */
function buffersOf(value: unknown, found = new Set<ArrayBuffer>()): ArrayBuffer[] {
  if (value instanceof Uint8Array) {
    // A small buffer may share its memory with others of Node's own.
    if (value.buffer instanceof ArrayBuffer && value.byteLength === value.buffer.byteLength) found.add(value.buffer);
  } else if (value !== null && typeof value === "object")
    for (const inner of Object.values(value)) buffersOf(inner, found);
  return [...found];
}
