import { decode, encode } from "fast-png";
import { MOST_FRAME } from "../readings";
import type { Frame } from "../vision";
import { damaged, picturePart } from "./picturePart";

export { picturePart } from "./picturePart";

/** The size of a PNG from its head; undefined where the bytes are no PNG. */
export function sizeOfPng(bytes: Uint8Array): { width: number; height: number } | undefined {
  if (bytes.length < 24 || !SIGNATURE.every((byte, i) => bytes[i] === byte)) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}
const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10];

/**
 * A frame from a PNG of any kind: greys become three alike channels, a palette its colours, 16 bit the upper 8; how much
 * shines through does not count.
 *
 * @throws RangeError with a sentence where it is none, is damaged or is larger than a frame may be
 */
export function decodePng(bytes: Uint8Array): Frame {
  const size = sizeOfPng(bytes);
  if (size === undefined) throw new RangeError("this is not a PNG");
  const { width, height } = size;
  if (width > MOST_FRAME.width || height > MOST_FRAME.height)
    throw new RangeError(
      `the picture has ${width} × ${height} px; at most ${MOST_FRAME.width} × ${MOST_FRAME.height} are read`,
    );
  let png: ReturnType<typeof decode>;
  try {
    png = decode(picturePart(bytes));
  } catch (error) {
    throw error instanceof RangeError && /^the PNG/.test(error.message) ? error : damaged();
  }
  const { channels, depth, palette } = png;
  const pixels = width * height;
  if (channels === 3 && depth === 8 && palette === undefined && png.data.length === 3 * pixels)
    return { width, height, channels: 3, data: png.data as Uint8Array };
  const data = new Uint8Array(3 * pixels);
  const sample = samplesOf(png.data, depth, width * channels);
  for (let i = 0; i < pixels; i++) {
    const [row, column] = [Math.floor(i / width), i % width];
    for (let c = 0; c < 3; c++) {
      const from = channels < 3 ? 0 : c;
      const value = sample(row, column * channels + from);
      data[3 * i + c] = palette === undefined ? value : (palette[value]?.[c] ?? 0);
    }
  }
  if (palette === undefined && depth < 8) {
    const most = 2 ** depth - 1;
    for (let k = 0; k < data.length; k++) data[k] = Math.round((data[k] * 255) / most);
  }
  return { width, height, channels: 3, data };
}

/** Reads the samples of a row, which has `long` of them and begins at a byte of its own. */
function samplesOf(data: ArrayLike<number>, depth: number, long: number): (row: number, k: number) => number {
  if (depth >= 8) return (row, k) => (depth === 16 ? data[row * long + k] >> 8 : data[row * long + k]);
  const bytes = Math.ceil((long * depth) / 8);
  const mask = 2 ** depth - 1;
  return (row, k) => {
    const bit = k * depth;
    return (data[row * bytes + (bit >> 3)] >> (8 - depth - (bit & 7))) & mask;
  };
}

/** A frame as a PNG of 8 bit and three channels, without loss. */
export function encodePng({ width, height, channels, data }: Frame): Uint8Array<ArrayBuffer> {
  const own = channels === 3 ? new Uint8Array(data.buffer, data.byteOffset, data.length) : withoutAlpha(data);
  return new Uint8Array(encode({ width, height, channels: 3, depth: 8, data: own }));
}

/** Four channels a pixel to three. */
export function withoutAlpha(data: ArrayLike<number>): Uint8Array<ArrayBuffer> {
  const pixels = data.length / 4;
  const made = new Uint8Array(3 * pixels);
  for (let i = 0; i < pixels; i++) {
    made[3 * i] = data[4 * i];
    made[3 * i + 1] = data[4 * i + 1];
    made[3 * i + 2] = data[4 * i + 2];
  }
  return made;
}
