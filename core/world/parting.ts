import type { Note } from "../behaviour";
import type { Trace } from "./trace";

/** Where two runs part: the first event that only one of them has, and how far apart the robots get in the end. */
export interface Parting {
  /** In ms: when the first of them differs. */
  t: number;
  first: Note | undefined;
  second: Note | undefined;
  /** How far apart the robots are at the end of the shorter run, in mm. */
  apart: number;
}

/** Events may shift in time by the noise alone; what happens, and in which order, is compared. */
const words = (note: Note) => JSON.stringify({ ...note, t: 0, ...("fired" in note && { fired: 0 }) });

/** Where two runs part; undefined where the same happens in both, in the same order. */
export function partingOf(a: Trace, b: Trace): Parting | undefined {
  const [one, two] = [a, b].map((trace) => trace.notes.filter((n) => n.kind !== "ended"));
  const i = one.findIndex((note, k) => two[k] === undefined || words(note) !== words(two[k]));
  const at = i < 0 ? (two.length > one.length ? one.length : -1) : i;
  if (at < 0) return undefined;
  const last = Math.min(a.x.length, b.x.length) - 1;
  return {
    t: Math.min(one[at]?.t ?? Number.POSITIVE_INFINITY, two[at]?.t ?? Number.POSITIVE_INFINITY),
    first: one[at],
    second: two[at],
    apart: Math.sqrt((a.x[last] - b.x[last]) ** 2 + (a.y[last] - b.y[last]) ** 2),
  };
}
