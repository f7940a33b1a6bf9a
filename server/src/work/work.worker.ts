import { move, transferableSymbol, valueSymbol } from "piscina";
import { JOBS, type Jobs } from "./jobs";

/** A piece of work, as a thread of the pool is given it. */
export interface Task {
  job: keyof Jobs;
  input: unknown[];
}

/** Does one piece of work; what it makes is handed over, not copied. */
export default function work({ job, input }: Task): unknown {
  const result = (JOBS[job] as (...input: unknown[]) => unknown)(...input);
  return move({ [transferableSymbol]: buffersOf(result), [valueSymbol]: result as object });
}

/** All typed arrays in a result. */
function buffersOf(value: unknown, found = new Set<ArrayBuffer>()): ArrayBuffer[] {
  if (value instanceof Uint8Array) {
    // A small buffer may share its memory with others of Node's own.
    if (value.buffer instanceof ArrayBuffer && value.byteLength === value.buffer.byteLength) found.add(value.buffer);
  } else if (value !== null && typeof value === "object")
    for (const inner of Object.values(value)) buffersOf(inner, found);
  return [...found];
}
