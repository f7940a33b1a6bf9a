import { hexToRgb } from "@perceptum/core/colour";
import type { ReadingBlock } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import type { MarkedTape } from "@perceptum/core/teaching";
import { instantOf } from "../../model/judging/instantOf";
import { shownByte } from "../../ui/cssColour";
import type { Axis } from "./axis";

/** Every marked reading in the field: place 0..1 along both axes, colour, and where it comes from. */
export interface FieldPoints {
  count: number;
  x: Float32Array;
  y: Float32Array;
  /** Three bytes a point. */
  colour: Uint8Array;
  ground: Uint8Array;
  tape: Uint8Array;
  index: Uint32Array;
  tapes: readonly MarkedTape[];
}

/** Gathers the marked readings; those without a place on an axis (a grey's hue) are left out. */
export function fieldPoints(
  tapes: readonly MarkedTape[],
  targets: readonly Target[],
  xAxis: Axis,
  yAxis: Axis,
): FieldPoints {
  const most = tapes.reduce((sum, tape) => sum + tape.truth.length, 0);
  const points: FieldPoints = {
    count: 0,
    x: new Float32Array(most),
    y: new Float32Array(most),
    colour: new Uint8Array(3 * most),
    ground: new Uint8Array(most),
    tape: new Uint8Array(most),
    index: new Uint32Array(most),
    tapes,
  };
  const paints = targets.map((t) => hexToRgb(t.paint).map((v) => Math.round(v * 255)) as [number, number, number]);
  const ground = [0, ...targets.map((t) => (t.kind === "background" ? 1 : 0))];
  const { x: px, y: py, colour } = points;
  let n = 0;
  tapes.forEach(({ block, truth }, k) => {
    const [xs, ys, r, g, b] = [
      block.column(xAxis.feature),
      block.column(yAxis.feature),
      block.column("r"),
      block.column("g"),
      block.column("b"),
    ];
    const coloured = block.features.includes("val");
    for (let i = 0; i < truth.length; i++) {
      if (truth[i] === 0) continue;
      const x = xAxis.at(xs[i]);
      // A fixed scatter, each target in a strip of its own.
      const y = yAxis.scatter
        ? (truth[i] - 0.5 + 0.6 * (((i * 7919) % 97) / 97 - 0.5)) / targets.length
        : yAxis.at(ys[i]);
      // What has no place (a grey's hue) or lies outside the part that is shown compares with nothing here.
      if (!(x >= 0 && x <= 1 && y >= 0 && y <= 1)) continue;
      px[n] = x;
      py[n] = y;
      if (coloured) {
        const byte = block.isShown ? wholeByte : shownByte;
        colour[3 * n] = byte(r[i]);
        colour[3 * n + 1] = byte(g[i]);
        colour[3 * n + 2] = byte(b[i]);
      } else colour.set(paints[truth[i] - 1], 3 * n);
      points.ground[n] = ground[truth[i]];
      points.tape[n] = k;
      points.index[n++] = i;
    }
  });
  points.count = n;
  return points;
}

/** The point nearest to a place in pixels, if one lies within `reach` pixels. */
export function nearestPoint(
  points: FieldPoints,
  x: number,
  y: number,
  width: number,
  height: number,
  reach: number,
): number {
  let best = -1;
  let least = reach * reach;
  for (let n = 0; n < points.count; n++) {
    const dx = points.x[n] * width - x;
    const dy = (1 - points.y[n]) * height - y;
    const distance = dx * dx + dy * dy;
    if (distance < least) {
      least = distance;
      best = n;
    }
  }
  return best;
}

/** Where a point comes from. */
export const originOf = (points: FieldPoints, n: number) => instantOf(points.tapes[points.tape[n]], points.index[n]);

const wholeByte = (x: number) => Math.round(x * 255);

/** Draws pixels of a frame as a grey cloud, the denser the more of them lie there. */
export function drawPixels(
  context: CanvasRenderingContext2D,
  block: ReadingBlock,
  xAxis: Axis,
  yAxis: Axis,
  width: number,
  height: number,
): void {
  const xs = block.column(xAxis.feature);
  const ys = yAxis.scatter ? null : block.column(yAxis.feature);
  context.fillStyle = "rgb(128 128 128 / 16%)";
  for (let i = 0; i < block.length; i++) {
    const x = xAxis.at(xs[i]);
    const y = ys === null ? 0.5 : yAxis.at(ys[i]);
    if (x >= 0 && x <= 1 && y >= 0 && y <= 1) context.fillRect(x * width - 1, (1 - y) * height - 1, 2.5, 2.5);
  }
}

/** More than so many points are drawn as density. */
const MOST_SINGLE = 8000;
/** Side of a density cell in pixels. */
const CELL = 3;

/** Draws the points in their own colours: circles for targets, squares for backgrounds. */
export function drawPoints(
  context: CanvasRenderingContext2D,
  points: FieldPoints,
  width: number,
  height: number,
): void {
  if (points.count > MOST_SINGLE) drawDensity(context, points, width, height);
  else drawSingly(context, points, width, height);
}

function drawSingly(context: CanvasRenderingContext2D, points: FieldPoints, width: number, height: number): void {
  context.lineWidth = 0.6;
  context.strokeStyle = "rgb(0 0 0 / 40%)";
  // Backgrounds first, so that targets lie on top of them.
  for (const ground of [1, 0]) {
    for (let n = 0; n < points.count; n++) {
      if (points.ground[n] !== ground) continue;
      const x = points.x[n] * width;
      const y = (1 - points.y[n]) * height;
      context.fillStyle = `rgb(${points.colour[3 * n]} ${points.colour[3 * n + 1]} ${points.colour[3 * n + 2]})`;
      context.beginPath();
      if (ground === 1) context.rect(x - 1.8, y - 1.8, 3.6, 3.6);
      else context.arc(x, y, 2.3, 0, 7);
      context.fill();
      context.stroke();
    }
  }
}

function drawDensity(context: CanvasRenderingContext2D, points: FieldPoints, width: number, height: number): void {
  // One pixel a cell, drawn large: many times faster than so many rectangles.
  const { columns, rows, data } = densityOf(points, width, height);
  const small = new OffscreenCanvas(columns, rows);
  small.getContext("2d")?.putImageData(new ImageData(data, columns), 0, 0);
  context.imageSmoothingEnabled = false;
  context.drawImage(small, 0, 0, columns * CELL, rows * CELL);
}

/** Cells (four bytes each, row by row) in the mean colour of their readings, the fuller the more lie in them. */
export function densityOf(
  points: FieldPoints,
  width: number,
  height: number,
): { columns: number; rows: number; data: Uint8ClampedArray<ArrayBuffer> } {
  const columns = Math.ceil(width / CELL) + 1;
  const rows = Math.ceil(height / CELL) + 1;
  const sums = new Float64Array(4 * columns * rows);
  for (let n = 0; n < points.count; n++) {
    const cell =
      4 * (Math.floor((points.x[n] * width) / CELL) + columns * Math.floor(((1 - points.y[n]) * height) / CELL));
    sums[cell]++;
    for (let c = 0; c < 3; c++) sums[cell + 1 + c] += points.colour[3 * n + c];
  }
  let most = 1;
  for (let cell = 0; cell < sums.length; cell += 4) if (sums[cell] > most) most = sums[cell];
  const data = new Uint8ClampedArray(sums.length);
  for (let cell = 0; cell < sums.length; cell += 4) {
    const n = sums[cell];
    if (n === 0) continue;
    for (let c = 0; c < 3; c++) data[cell + c] = sums[cell + 1 + c] / n;
    data[cell + 3] = 255 * (0.25 + 0.75 * (Math.log1p(n) / Math.log1p(most)));
  }
  return { columns, rows, data };
}
