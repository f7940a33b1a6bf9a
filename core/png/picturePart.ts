import { Unzlib } from "fflate";

/** The chunks that make the picture; all others are left out, packed ones among them. */
const OF_PICTURE = new Set(["IHDR", "PLTE", "tRNS", "IDAT", "IEND"]);
const HEAD_BYTES = 8;
/** Unpacks so many bytes of a picture at a time: each may become a thousand. */
const PUSH_BYTES = 4096;
/** A picture packed into less than this cannot become large enough to do harm. */
const SMALL_BYTES = 64 * 1024;
/** Samples of a pixel by the colour type of PNG. */
const SAMPLES: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** First row and column and the steps of the seven passes of an interlaced PNG (Adam7). */
const PASSES = [
  [0, 0, 8, 8],
  [0, 4, 8, 8],
  [4, 0, 8, 4],
  [0, 2, 4, 4],
  [2, 0, 4, 2],
  [0, 1, 2, 2],
  [1, 0, 2, 1],
] as const;

/**
 * A PNG with nothing but its picture, whose packed part is as large as its head says.
 *
 * @throws RangeError with a sentence where it is cut off, is no PNG of a known kind, or holds more than its head says
 */
export function picturePart(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const kept: Uint8Array[] = [bytes.subarray(0, HEAD_BYTES)];
  const packed: Uint8Array[] = [];
  for (let at = HEAD_BYTES, over = false; !over; ) {
    if (at + 12 > bytes.length) throw damaged();
    const end = at + 12 + view.getUint32(at);
    if (end > bytes.length) throw damaged();
    const kind = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (OF_PICTURE.has(kind)) kept.push(bytes.subarray(at, end));
    if (kind === "IDAT") packed.push(bytes.subarray(at + 8, end - 4));
    over = kind === "IEND";
    at = end;
  }
  requireSize(packed, unpackedBytes(view));
  const whole = new Uint8Array(kept.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of kept) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

export const damaged = () => new RangeError("the PNG is damaged or cut off");

/** The bytes of the picture by its head: one for the filter of each row, then the row's samples. */
function unpackedBytes(view: DataView): number {
  const [width, height] = [view.getUint32(16), view.getUint32(20)];
  const bits = view.getUint8(24) * (SAMPLES[view.getUint8(25)] ?? Number.NaN);
  if (!(bits > 0)) throw damaged();
  const rowsOf = (columns: number, rows: number) => (columns === 0 ? 0 : rows * (1 + Math.ceil((columns * bits) / 8)));
  if (view.getUint8(28) === 0) return rowsOf(width, height);
  return PASSES.reduce((sum, [top, left, down, right]) => {
    const columns = Math.ceil(Math.max(0, width - left) / right);
    const rows = Math.ceil(Math.max(0, height - top) / down);
    return sum + rowsOf(columns, rows);
  }, 0);
}

/** Unpacks a picture part by part, and no further than its head says. */
function requireSize(packed: readonly Uint8Array[], most: number): void {
  if (packed.reduce((sum, part) => sum + part.length, 0) <= SMALL_BYTES) return;
  let size = 0;
  const unpacking = new Unzlib((part) => {
    size += part.length;
  });
  for (const part of packed)
    for (let from = 0; from < part.length; from += PUSH_BYTES) {
      try {
        unpacking.push(part.subarray(from, from + PUSH_BYTES));
      } catch {
        throw damaged();
      }
      if (size > most) throw new RangeError("the PNG holds more than the size in its head says");
    }
}
