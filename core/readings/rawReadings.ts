import type { Readings } from "../project/schema";
import type { RawReadings } from "./ReadingBlock";

/** Readings of a project file to typed arrays. */
export function packReadings({ t, channels }: Readings): RawReadings {
  return {
    t: Float64Array.from(t),
    channels: {
      r: Float64Array.from(channels.r),
      g: Float64Array.from(channels.g),
      b: Float64Array.from(channels.b),
    },
  };
}

/** Typed arrays to readings of a project file. */
export function unpackReadings({ t, channels }: RawReadings): Readings {
  return {
    t: Array.from(t),
    channels: { r: Array.from(channels.r), g: Array.from(channels.g), b: Array.from(channels.b) },
  };
}

const COLUMNS = 4;

/**
 * Readings as bytes: for each chunk a little-endian float64 count n, then n times in ms, then n values each of the
 * three wire channels, all float64. Chunks may simply be joined.
 */
export function encodeReadings({ t, channels }: RawReadings): Uint8Array<ArrayBuffer> {
  const n = t.length;
  const words = new Float64Array(1 + COLUMNS * n);
  words[0] = n;
  [t, channels.r, channels.g, channels.b].forEach((column, i) => {
    words.set(column, 1 + i * n);
  });
  return new Uint8Array(words.buffer);
}

/**
 * The inverse of `encodeReadings`, for one chunk or several joined.
 * @throws RangeError when the bytes are cut off or hold times that go backwards or values that are no numbers.
 */
export function decodeReadings(bytes: Uint8Array): RawReadings {
  if (bytes.byteLength % 8 !== 0) throw new RangeError("the readings are cut off within a number");
  // Copied, since the bytes may start at any offset of their buffer.
  const words = new Float64Array(new Uint8Array(bytes).buffer);
  const chunks: { at: number; n: number }[] = [];
  let total = 0;
  for (let at = 0; at < words.length; ) {
    const n = words[at];
    if (!Number.isInteger(n) || n < 0 || at + 1 + COLUMNS * n > words.length) {
      throw new RangeError(`the readings are cut off after ${total}`);
    }
    chunks.push({ at: at + 1, n });
    total += n;
    at += 1 + COLUMNS * n;
  }
  const column = (i: number) => {
    const whole = new Float64Array(total);
    let filled = 0;
    for (const { at, n } of chunks) {
      whole.set(words.subarray(at + i * n, at + (i + 1) * n), filled);
      filled += n;
    }
    return whole;
  };
  const [t, r, g, b] = [column(0), column(1), column(2), column(3)];
  for (let i = 0; i < total; i++) {
    if (!Number.isFinite(t[i] + r[i] + g[i] + b[i]))
      throw new RangeError(`reading ${i + 1} holds something that is not a number`);
    if (i > 0 && t[i] < t[i - 1]) throw new RangeError(`time goes backwards at reading ${i + 1}`);
  }
  return { t, channels: { r, g, b } };
}
