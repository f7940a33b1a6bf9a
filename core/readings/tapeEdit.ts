import { type LightId, numbered } from "../names";
import { cutReadings, type RawReadings } from "./rawReadings";
import type { Box, Mark, TapeHead } from "./tapeSchema";

/** A tape's readings with its marks; of a camera with frames and boxes. */
export interface MarkedReadings extends Pick<TapeHead, "frames" | "boxes"> {
  readings: RawReadings;
  marks: Mark[];
}

/** Marks cut to a stretch of time, moved by `shift` ms; those outside fall away. */
function cutMarks(marks: readonly Mark[], from: number, to: number, shift: number): Mark[] {
  return marks
    .filter((m) => m.to >= from && m.from <= to)
    .map((m) => ({ ...m, from: Math.max(m.from, from) + shift, to: Math.min(m.to, to) + shift }));
}

function moved({ t, channels }: RawReadings, shift: number): RawReadings {
  return { t: t.map((x) => x + shift), channels };
}

/** Boxes of a stretch of time, moved by `shift` ms. */
const cutBoxes = (boxes: readonly Box[], from: number, to: number, shift: number): Box[] =>
  boxes.filter(({ t }) => t >= from && t <= to).map((box) => ({ ...box, t: box.t + shift }));

/** The readings within a stretch of time, both ends included, with time counted from its first reading. */
export function trimTape({ readings, marks, frames, boxes }: MarkedReadings, from: number, to: number): MarkedReadings {
  const first = readings.t.findIndex((t) => t >= from);
  const last = readings.t.findLastIndex((t) => t <= to);
  if (first < 0 || last < first)
    return {
      readings: cutReadings(readings, 0, 0),
      marks: [],
      ...(frames && { frames: [] }),
      ...(boxes && { boxes: [] }),
    };
  const start = readings.t[first];
  return {
    readings: moved(cutReadings(readings, first, last + 1), -start),
    marks: cutMarks(marks, start, readings.t[last], -start),
    ...(frames && { frames: frames.slice(first, last + 1) }),
    ...(boxes && { boxes: cutBoxes(boxes, start, readings.t[last], -start) }),
  };
}

/** A tape cut in two before the first reading at or after `t`. */
export function splitTape(tape: MarkedReadings, t: number): [MarkedReadings, MarkedReadings] {
  const { t: times } = tape.readings;
  const found = times.findIndex((x) => x >= t);
  const at = found < 0 ? times.length : found;
  const [before, after] = [times[at - 1] ?? Number.NEGATIVE_INFINITY, times[at] ?? Number.POSITIVE_INFINITY];
  return [trimTape(tape, Number.NEGATIVE_INFINITY, before), trimTape(tape, after, Number.POSITIVE_INFINITY)];
}

/**
 * Tapes of one kind of report joined one after another, `gapMs` from the last reading of each to the first of the
 * next.
 */
export function joinTapes(tapes: readonly MarkedReadings[], gapMs: number): MarkedReadings {
  const names = Object.keys(tapes[0].readings.channels) as (keyof RawReadings["channels"])[];
  const total = tapes.reduce((sum, { readings }) => sum + readings.t.length, 0);
  const t = new Float64Array(total);
  const columns = names.map(() => new Float64Array(total));
  const marks: Mark[] = [];
  const boxes: Box[] = [];
  let n = 0;
  for (const tape of tapes) {
    const shift = n === 0 ? 0 : t[n - 1] + gapMs - (tape.readings.t[0] ?? 0);
    t.set(
      tape.readings.t.map((x) => x + shift),
      n,
    );
    names.forEach((name, c) => {
      columns[c].set(tape.readings.channels[name] ?? [], n);
    });
    marks.push(...tape.marks.map((m) => ({ ...m, from: m.from + shift, to: m.to + shift })));
    boxes.push(...(tape.boxes ?? []).map((box) => ({ ...box, t: box.t + shift })));
    n += tape.readings.t.length;
  }
  const framed = tapes.some((tape) => tape.frames !== undefined);
  return {
    readings: { t, channels: Object.fromEntries(names.map((name, c) => [name, columns[c]])) },
    marks: numbered("mark", marks),
    ...(framed && { frames: tapes.flatMap((tape) => tape.frames ?? []), boxes: numbered("box", boxes) }),
  };
}

/** A stretch of a tape's time, both ends included, in ms. */
export interface Stretch {
  from: number;
  to: number;
}

/** The marks and boxes of a tape that lie in a stretch, be it with a part; all of them where none is given. */
export const notedWithin = ({ marks, boxes = [] }: Pick<TapeHead, "marks" | "boxes">, within?: Stretch) => [
  ...marks.filter((mark) => meets(mark, within)),
  ...boxes.filter(({ t }) => meets({ from: t, to: t }, within)),
];

/** The tape with what lies in a stretch noted in one light; undefined: none is noted. */
export function inLight<T extends Pick<TapeHead, "marks" | "boxes">>(
  tape: T,
  light: LightId | undefined,
  within?: Stretch,
): T {
  const meant = new Set<Mark | Box>(notedWithin(tape, within));
  const lit = <M extends Mark | Box>(noted: M): M => {
    if (!meant.has(noted)) return noted;
    const { light: _, ...rest } = noted;
    return { ...rest, ...(light !== undefined && { light }) } as M;
  };
  return { ...tape, marks: tape.marks.map(lit), ...(tape.boxes && { boxes: tape.boxes.map(lit) }) };
}

const meets = (a: Stretch, b: Stretch | undefined) => b === undefined || (a.from <= b.to && a.to >= b.from);
