import { numbered, type TapeId } from "../names";
import {
  type Box,
  type CameraSensor,
  isCamera,
  type Mark,
  type RawReadings,
  type ReadingsByTape,
  type Sensor,
  type TapeHead,
} from "../readings";
import { type Frame, formOf, placesIn } from "./frame";

/** Of one box so many pixels are taken at most. */
export const MOST_PICKED = 5000;
/** Of each side of a box this share counts: at its edges one sees other things. */
const MIDDLE = 0.8;

/** The pixels that are taken of a box, in px of the upright frame: columns and rows that lie evenly over its middle. */
export function pickedOf({ left, top, width, height }: Pick<Box, "left" | "top" | "width" | "height">): {
  columns: readonly number[];
  rows: readonly number[];
} {
  const [wide, high] = [width, height].map((side) => Math.max(1, Math.round(side * MIDDLE)));
  // As many columns and rows as make squares, where not all of them can be taken.
  const share = Math.min(1, Math.sqrt(MOST_PICKED / (wide * high)));
  const few = Math.max(1, Math.floor(wide * share));
  const down = Math.max(1, Math.min(high, Math.floor(MOST_PICKED / few)));
  const across = Math.min(wide, Math.floor(MOST_PICKED / down));
  const evenly = (from: number, side: number, own: number, count: number) =>
    Array.from({ length: count }, (_, i) => from + ((side - own) >> 1) + Math.floor(((i + 0.5) * own) / count));
  return { columns: evenly(left, width, wide, across), rows: evenly(top, height, high, down) };
}

const countOf = (box: Box): number => {
  const { columns, rows } = pickedOf(box);
  return columns.length * rows.length;
};

/** Boxes as marks on the pixels that are taken of them, one after the other: pixel k stands at the time k. */
export function marksOfBoxes(boxes: readonly Box[]): Mark[] {
  let from = 0;
  const marks = boxes.map((box) => {
    const { target, light } = box;
    const mark = { from, to: from + countOf(box) - 1, target, ...(light !== undefined && { light }) };
    from = mark.to + 1;
    return mark;
  });
  return numbered("mark", marks);
}

/**
 * The pixels of a tape's boxes as readings, in the order of the boxes, as they came over the wire. `frameAt` gives the
 * frame at a time; undefined as long as one of them is missing.
 */
export function pixelsOfBoxes(
  boxes: readonly Box[],
  sensor: CameraSensor,
  frameAt: (t: number) => Frame | undefined,
): RawReadings | undefined {
  const count = boxes.reduce((sum, box) => sum + countOf(box), 0);
  const t = Float64Array.from({ length: count }, (_, i) => i);
  const [r, g, b] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  let at = 0;
  for (const box of boxes) {
    const frame = frameAt(box.t);
    if (frame === undefined) return undefined;
    const { rowStart } = placesIn(frame, formOf(sensor));
    const { columns, rows } = pickedOf(box);
    for (const row of rows) {
      const start = rowStart(row);
      for (const column of columns) {
        const place = start + column * frame.channels;
        r[at] = frame.data[place];
        g[at] = frame.data[place + 1];
        b[at] = frame.data[place + 2];
        at++;
      }
    }
  }
  return { t, channels: { r, g, b } };
}

interface Taped {
  tapes: TapeHead[];
  sensors: readonly Sensor[];
}

/** The pixels of a tape's boxes, and the boxes that they are of. */
export interface BoxPixels {
  boxes: readonly Box[];
  pixels: RawReadings;
}

/** Tapes as rules are taught and judged by them: a camera's tape has each of its boxes as a mark on their pixels. */
export function taughtTapes(tapes: readonly TapeHead[], known: ReadonlyMap<TapeId, BoxPixels>): TapeHead[] {
  return tapes.map((tape) => {
    if (tape.frames === undefined) return tape;
    const { boxes = [] } = known.get(tape.id) ?? {};
    return { ...tape, boxes: [...boxes], marks: marksOfBoxes(boxes) };
  });
}

/** Readings to go with them: a camera's tape holds the pixels of its boxes, and is left out as long as they are not known. */
export function taughtReadings(
  tapes: readonly TapeHead[],
  readings: ReadingsByTape,
  known: ReadonlyMap<TapeId, BoxPixels>,
): ReadingsByTape {
  const taught = new Map(readings);
  for (const { id, frames } of tapes) {
    if (frames === undefined) continue;
    const own = known.get(id);
    if (own === undefined) taught.delete(id);
    else taught.set(id, own.pixels);
  }
  return taught;
}

/** A project with its readings as rules are taught and judged by them. */
export function taughtBy<P extends { tapes: TapeHead[] }>(
  project: P,
  readings: ReadingsByTape,
  known: ReadonlyMap<TapeId, BoxPixels>,
): { project: P; readings: ReadingsByTape } {
  if (project.tapes.every((tape) => tape.frames === undefined)) return { project, readings };
  return {
    project: { ...project, tapes: taughtTapes(project.tapes, known) },
    readings: taughtReadings(project.tapes, readings, known),
  };
}

/** The tapes of cameras. */
export const cameraTapes = ({ tapes, sensors }: Taped): { tape: TapeHead; sensor: CameraSensor }[] =>
  tapes.flatMap((tape) => {
    const sensor = sensors.find((s) => s.id === tape.sensor);
    return sensor !== undefined && isCamera(sensor) ? [{ tape, sensor }] : [];
  });

/** The pixels of all boxes of a project's tapes; `frame` gives a frame by its name, `readings` the times of each tape. */
export function allPixels(
  project: Taped,
  readings: ReadingsByTape,
  frame: (name: string) => Frame | undefined,
): Map<TapeId, BoxPixels> {
  const known = new Map<TapeId, BoxPixels>();
  for (const { tape, sensor } of cameraTapes(project)) {
    const { id, frames = [], boxes = [] } = tape;
    const times = readings.get(id)?.t;
    const pixels = pixelsOfBoxes(boxes, sensor, (t) => {
      const name = frames[times?.indexOf(t) ?? -1];
      return name === undefined ? undefined : frame(name);
    });
    if (pixels !== undefined) known.set(id, { boxes, pixels });
  }
  return known;
}
