import type { TapeId } from "../names";
import type { Channel } from "./report";
import { channelsOnTape, REPORT_KINDS, type Report } from "./reportKinds";
import type { Readings } from "./tapeSchema";

/** Raw readings as they came: time in ms and the channels by their place on the wire, each of the same length. */
export interface RawReadings {
  t: Float64Array;
  channels: Partial<Record<Channel, Float64Array>>;
}

/** Readings by tape. */
export type ReadingsByTape = ReadonlyMap<TapeId, RawReadings>;

/** No readings, of a kind of report. */
export function noReadings(channels: readonly Channel[]): RawReadings {
  return {
    t: new Float64Array(),
    channels: Object.fromEntries(channels.map((channel) => [channel, new Float64Array()])),
  };
}

/** The readings from index `from` to before `to`. */
export function cutReadings({ t, channels }: RawReadings, from: number, to: number): RawReadings {
  return {
    t: t.slice(from, to),
    channels: Object.fromEntries(Object.entries(channels).map(([name, column]) => [name, column.slice(from, to)])),
  };
}

/** Readings of a project file to typed arrays. */
export function packReadings({ t, channels }: Readings): RawReadings {
  return {
    t: Float64Array.from(t),
    channels: Object.fromEntries(Object.entries(channels).map(([name, column]) => [name, Float64Array.from(column)])),
  };
}

/** Typed arrays to readings of a project file. */
export function unpackReadings({ t, channels }: RawReadings): Readings {
  return {
    t: Array.from(t),
    channels: Object.fromEntries(Object.entries(channels).map(([name, column]) => [name, Array.from(column)])),
  };
}

/** The first number of a chunk counts its readings, and beyond this stands which report they are of. */
const REPORT_UNIT = 2 ** 32;

/** The kind of report that holds exactly these channels; −1 where none does. */
function reportOf(channels: RawReadings["channels"]): number {
  const names = Object.keys(channels);
  return REPORT_KINDS.keys.findIndex((report) => {
    const wanted = channelsOnTape(report);
    return wanted.length === names.length && wanted.every((name) => channels[name] !== undefined);
  });
}

/** What a sensor reports that gives these readings. @throws RangeError for channels that no report has. */
export function reportOfReadings({ channels }: RawReadings): Report {
  const report = REPORT_KINDS.keys[reportOf(channels)];
  if (report === undefined) throw new RangeError(`no report has the channels ${Object.keys(channels).join(", ")}`);
  return report;
}

/** How many bytes readings take in a project file: their numbers with commas between. */
export function textBytesOfReadings({ t, channels }: RawReadings): number {
  let bytes = 0;
  for (const column of [t, ...Object.values(channels)]) for (const value of column) bytes += String(value).length + 1;
  return bytes;
}

/**
 * Readings as bytes, float64 and little-endian: for each chunk a head n + 2³² · k, where k counts the report kinds
 * (rgb 0, rgbc 1, hsv 2, hue 3, reflected 4, code 5, frames 6), then n times in ms, then n values of each channel in the
 * report's order. Chunks of one kind may simply be joined.
 *
 * @throws RangeError for channels that no report has.
 */
export function encodeReadings({ t, channels }: RawReadings): Uint8Array<ArrayBuffer> {
  const n = t.length;
  const report = reportOfReadings({ t, channels });
  const columns = [t, ...channelsOnTape(report).map((name) => channels[name] as Float64Array)];
  const words = new Float64Array(1 + columns.length * n);
  words[0] = n + REPORT_KINDS.keys.indexOf(report) * REPORT_UNIT;
  columns.forEach((column, i) => {
    words.set(column, 1 + i * n);
  });
  return new Uint8Array(words.buffer);
}

/** Counts the readings of one chunk, and its columns; undefined for bytes that are no whole chunk. */
export function chunkOf(bytes: Uint8Array): { count: number; columns: number } | undefined {
  if (bytes.byteLength % 8 !== 0 || bytes.byteLength === 0) return undefined;
  const head = new DataView(bytes.buffer, bytes.byteOffset, 8).getFloat64(0, true);
  const report = REPORT_KINDS.keys[Math.floor(head / REPORT_UNIT)];
  if (report === undefined) return undefined;
  const columns = 1 + channelsOnTape(report).length;
  const count = head % REPORT_UNIT;
  return bytes.byteLength === 8 * (1 + columns * count) ? { count, columns } : undefined;
}

/**
 * The inverse of `encodeReadings`, for one chunk or several joined.
 * @throws RangeError when the bytes are cut off or hold times that go backwards or values that are no numbers.
 */
export function decodeReadings(bytes: Uint8Array): RawReadings {
  if (bytes.byteLength % 8 !== 0) throw new RangeError("the readings are cut off within a number");
  if (bytes.byteLength === 0) throw new RangeError("there is not even a count of readings");
  // Copied where the bytes start at an offset that numbers may not have.
  const words =
    bytes.byteOffset % 8 === 0
      ? new Float64Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 8)
      : new Float64Array(new Uint8Array(bytes).buffer);
  const report = Math.floor(words[0] / REPORT_UNIT);
  if (REPORT_KINDS.keys[report] === undefined) throw new RangeError("the readings do not begin with their count");
  const names = channelsOnTape(REPORT_KINDS.keys[report]);
  const width = 1 + names.length;
  const chunks: { at: number; n: number }[] = [];
  let total = 0;
  for (let at = 0; at < words.length; ) {
    const n = words[at] - report * REPORT_UNIT;
    if (!Number.isInteger(n) || n < 0 || n >= REPORT_UNIT || at + 1 + width * n > words.length) {
      throw new RangeError(`the readings are cut off after ${total}`);
    }
    chunks.push({ at: at + 1, n });
    total += n;
    at += 1 + width * n;
  }
  const column = (i: number) => {
    const whole = new Float64Array(total);
    let filled = 0;
    for (const { at, n } of chunks) {
      whole.set(words.subarray(at + i * n, at + (i + 1) * n), filled);
      filled += n;
    }
    for (let k = 0; k < total; k++)
      if (!Number.isFinite(whole[k])) throw new RangeError(`reading ${k + 1} holds something that is not a number`);
    return whole;
  };
  const t = column(0);
  for (let i = 1; i < total; i++) if (t[i] < t[i - 1]) throw new RangeError(`time goes backwards at reading ${i + 1}`);
  return { t, channels: Object.fromEntries(names.map((name, i) => [name, column(i + 1)])) };
}
