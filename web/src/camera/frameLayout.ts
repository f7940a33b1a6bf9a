import type { Box } from "@perceptum/core/readings";

/** How a frame lies on the screen: so many CSS px a pixel, and where its corner is. */
export interface FrameLayout {
  scale: number;
  left: number;
  top: number;
}

type Size = { width: number; height: number };

/** A frame as large as it fits, in the middle. */
export function laidIn(width: number, height: number, frame: Size): FrameLayout {
  const scale = Math.max(0.05, Math.min(width / frame.width, height / frame.height));
  return { scale, left: (width - frame.width * scale) / 2, top: (height - frame.height * scale) / 2 };
}

/** What of a frame is shown: so many times as large as it fits, with this place of the frame in the middle. */
export interface Zoom {
  by: number;
  column: number;
  row: number;
}
const MOST_ZOOM = 40;

/** A frame that lies as it fits, enlarged; it covers the room as far as it can. */
export function zoomed(fits: FrameLayout, zoom: Zoom | null, width: number, height: number, frame: Size): FrameLayout {
  if (zoom === null) return fits;
  const scale = fits.scale * zoom.by;
  const along = (room: number, length: number, middle: number) =>
    length * scale <= room
      ? (room - length * scale) / 2
      : Math.max(room - length * scale, Math.min(0, room / 2 - middle * scale));
  return { scale, left: along(width, frame.width, zoom.column), top: along(height, frame.height, zoom.row) };
}

/** The zoom that shows a frame `by` times larger than it lies now and keeps the place `at` (px of the room) where it is; null for all of it. */
export function zoomedAt(
  fits: FrameLayout,
  laid: FrameLayout,
  by: number,
  at: { x: number; y: number },
  width: number,
  height: number,
): Zoom | null {
  const to = Math.min(MOST_ZOOM, (laid.scale / fits.scale) * by);
  if (to <= 1.001) return null;
  const scale = fits.scale * to;
  const column = (at.x - laid.left) / laid.scale + (width / 2 - at.x) / scale;
  const row = (at.y - laid.top) / laid.scale + (height / 2 - at.y) / scale;
  return { by: to, column, row };
}

export type Rect = Pick<Box, "left" | "top" | "width" | "height">;

/** The rectangle of two pixels and all between them, within the frame. */
export function rectOf(
  a: { column: number; row: number },
  b: { column: number; row: number },
  frame: { width: number; height: number },
): Rect {
  const within = (x: number, most: number) => Math.max(0, Math.min(most - 1, x));
  const [c, d] = [within(a.column, frame.width), within(b.column, frame.width)];
  const [r, s] = [within(a.row, frame.height), within(b.row, frame.height)];
  return { left: Math.min(c, d), top: Math.min(r, s), width: Math.abs(c - d) + 1, height: Math.abs(r - s) + 1 };
}
