import { numbered, type TargetId, type Unlisted } from "../names";
import type { Course } from "./courses";

/** A colour that a picture holds, 0..255, and which share of its pixels are near it. */
export interface PictureColour {
  rgb: [number, number, number];
  share: number;
}

/** Pixels as a canvas gives them: red, green, blue and opacity, row by row from the top. */
export interface Pixels {
  data: ArrayLike<number>;
  width: number;
  height: number;
}

/** Colours that lie nearer than this, of 0..255 in each channel, count as one. */
const NEAR = 48;
const MOST_COLOURS = 16;

const far = (a: ArrayLike<number>, b: ArrayLike<number>) =>
  Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

/**
 * The colours of a picture, the commonest first, at most 16: pixels counted in boxes of 16 a channel, boxes taken
 * together with a commoner one that is near. Edges that blend give rare colours, which are left out below 0.2 %.
 */
export function coloursOf({ data, width, height }: Pixels): PictureColour[] {
  const boxes = new Map<number, [n: number, r: number, g: number, b: number]>();
  for (let i = 0; i < width * height; i++) {
    const [r, g, b] = [data[4 * i], data[4 * i + 1], data[4 * i + 2]];
    const key = ((r >> 4) << 8) | ((g >> 4) << 4) | (b >> 4);
    const box = boxes.get(key) ?? [0, 0, 0, 0];
    box[0]++;
    box[1] += r;
    box[2] += g;
    box[3] += b;
    boxes.set(key, box);
  }
  const found: PictureColour[] = [];
  const commonest = [...boxes.values()].sort((a, b) => b[0] - a[0]);
  for (const [n, r, g, b] of commonest) {
    const rgb: [number, number, number] = [r / n, g / n, b / n];
    const near = found.find((colour) => far(colour.rgb, rgb) < NEAR);
    if (near) near.share += n / (width * height);
    else if (found.length < MOST_COLOURS) found.push({ rgb, share: n / (width * height) });
  }
  return found
    .filter((colour) => colour.share >= 0.002)
    .map(({ rgb, share }) => ({ rgb: [Math.round(rgb[0]), Math.round(rgb[1]), Math.round(rgb[2])], share }));
}

/** A picture would give more patches than a course holds. */
export class PictureError extends Error {}
const MOST_PATCHES = 5000;

/**
 * Patches that paint a course like a picture, its left edge at x = 0 and its lower edge at y = 0: the picture is laid
 * out in cells of `cellMm`, each of the target of the colour at its middle, and equal cells are taken together into
 * rectangles. `targets` gives each colour's target, null for bare ground. @throws PictureError for too many patches
 */
export function patchesFromPicture(
  pixels: Pixels,
  widthMm: number,
  colours: readonly PictureColour[],
  targets: readonly (TargetId | null)[],
  cellMm: number,
): { patches: Course["patches"]; size: [number, number] } {
  const scale = pixels.width / widthMm;
  const heightMm = pixels.height / scale;
  const columns = Math.max(1, Math.round(widthMm / cellMm));
  const rows = Math.max(1, Math.round(heightMm / cellMm));
  const [dx, dy] = [widthMm / columns, heightMm / rows];
  const cells = Array.from({ length: rows }, (_, row) =>
    Array.from({ length: columns }, (__, column) => {
      const x = Math.min(pixels.width - 1, Math.floor((column + 0.5) * dx * scale));
      const y = Math.min(pixels.height - 1, Math.floor((row + 0.5) * dy * scale));
      const at = 4 * (y * pixels.width + x);
      const here = [pixels.data[at], pixels.data[at + 1], pixels.data[at + 2]];
      let best = 0;
      for (let k = 1; k < colours.length; k++) if (far(colours[k].rgb, here) < far(colours[best].rgb, here)) best = k;
      return targets[best] ?? null;
    }),
  );
  const patches: Unlisted<Course["patches"][number]>[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const target = cells[row][column];
      if (target === null) continue;
      let right = column;
      while (right + 1 < columns && cells[row][right + 1] === target) right++;
      let bottom = row;
      const sameBelow = (r: number) => cells[r]?.slice(column, right + 1).every((t) => t === target) ?? false;
      while (sameBelow(bottom + 1)) bottom++;
      for (let r = row; r <= bottom; r++) cells[r].fill(null, column, right + 1);
      if (patches.length === MOST_PATCHES)
        throw new PictureError(
          `the picture gives more than ${MOST_PATCHES} patches; take larger cells or fewer colours`,
        );
      patches.push({
        shape: { rect: [(right - column + 1) * dx, (bottom - row + 1) * dy] },
        target,
        at: [((column + right + 1) / 2) * dx, heightMm - ((row + bottom + 1) / 2) * dy],
        angle: 0,
      });
    }
  return { patches: numbered("patch", patches), size: [widthMm, heightMm] };
}
