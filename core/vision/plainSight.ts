import { type int, type num, whole } from "../arithmetic";

/**
 * How masks are cleaned and blobs are found, the plain way: a square of pixels and a fill. Robots' code has these
 * functions; the core finds the same by runs of bits.
 */
export interface PlainSight {
  /** The label of each pixel of the strip, row after row. */
  pixels: Int32Array;
  /** 1 for each pixel of the mask. */
  mask: Int32Array;
  /** Room for a step between. */
  squareRows: Int32Array;
  toFill: Int32Array;
  /** Measures of each target's largest blob: area, width, height, x, y, error, half the frame's width. */
  blobs: Float64Array;
}

/** Puts a blob where it lies in px of the frame, and says how far right of the set point, and half the frame's width. */
export function inFrame(e: PlainSight, place: int, left: num, top: num, setPoint: num, halfFrame: num): void {
  e.blobs[place + 3] += left;
  e.blobs[place + 4] += top;
  e.blobs[place + 5] = e.blobs[place + 3] - setPoint;
  e.blobs[place + 6] = halfFrame;
}

/** Keeps the pixels of a mask around which every pixel of a square is set, or sets those around which any is. */
function cleanMask(e: PlainSight, wide: int, high: int, by: int, every: boolean): void {
  if (by === 0) return;
  const need = every ? 2 * by + 1 : 1;
  for (let row = 0; row < high; row++) {
    let count = 0;
    const first = Math.min(by, wide);
    for (let column = 0; column < first; column++) count += e.mask[row * wide + column];
    for (let column = 0; column < wide; column++) {
      if (column + by < wide) count += e.mask[row * wide + column + by];
      if (column > by) count -= e.mask[row * wide + column - by - 1];
      e.squareRows[row * wide + column] = count >= need ? 1 : 0;
    }
  }
  for (let column = 0; column < wide; column++) {
    let count = 0;
    const first = Math.min(by, high);
    for (let row = 0; row < first; row++) count += e.squareRows[row * wide + column];
    for (let row = 0; row < high; row++) {
      if (row + by < high) count += e.squareRows[(row + by) * wide + column];
      if (row > by) count -= e.squareRows[(row - by - 1) * wide + column];
      e.mask[row * wide + column] = count >= need ? 1 : 0;
    }
  }
}

/**
 * Finds the largest blob of a label among pixels: parts that touch at a side or a corner, of at least `least` pixels. Of
 * equal ones the upper counts, then the left. An area of 0 is none.
 */
export function findBlob(
  e: PlainSight,
  label: int,
  place: int,
  wide: int,
  high: int,
  erode: int,
  dilate: int,
  least: int,
): void {
  const all = wide * high;
  for (let i = 0; i < all; i++) e.mask[i] = e.pixels[i] === label ? 1 : 0;
  cleanMask(e, wide, high, erode, true);
  cleanMask(e, wide, high, dilate, false);
  let best = 0;
  let bestLeft = 0;
  let bestTop = 0;
  let bestRight = 0;
  let bestBottom = 0;
  for (let i = 0; i < all; i++) {
    if (e.mask[i] === 0) continue;
    e.mask[i] = 0;
    e.toFill[0] = i;
    let waiting = 1;
    let area = 0;
    let west = wide;
    let east = 0;
    let north = high;
    let south = 0;
    while (waiting > 0) {
      waiting -= 1;
      const pixel = e.toFill[waiting];
      const x = pixel % wide;
      const y = whole(Math.floor((pixel + 0.5) / wide));
      area += 1;
      west = Math.min(west, x);
      east = Math.max(east, x);
      north = Math.min(north, y);
      south = Math.max(south, y);
      const below = Math.min(high, y + 2);
      const behind = Math.min(wide, x + 2);
      for (let v = Math.max(0, y - 1); v < below; v++) {
        for (let u = Math.max(0, x - 1); u < behind; u++) {
          if (e.mask[v * wide + u] === 0) continue;
          e.mask[v * wide + u] = 0;
          e.toFill[waiting] = v * wide + u;
          waiting += 1;
        }
      }
    }
    const isUpper = north < bestTop || (north === bestTop && west < bestLeft);
    if (area >= least && (area > best || (area === best && isUpper))) {
      best = area;
      bestLeft = west;
      bestTop = north;
      bestRight = east;
      bestBottom = south;
    }
  }
  e.blobs[place] = best;
  e.blobs[place + 1] = bestRight - bestLeft + 1;
  e.blobs[place + 2] = bestBottom - bestTop + 1;
  e.blobs[place + 3] = (bestLeft + bestRight) * 0.5;
  e.blobs[place + 4] = (bestTop + bestBottom) * 0.5;
}
