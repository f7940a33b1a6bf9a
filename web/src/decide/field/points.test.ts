import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { markedTapes } from "@perceptum/core/teaching";
import { describe, expect, it } from "vitest";
import { makeAxis } from "./axis";
import { drawPoints, type FieldPoints, fieldPoints, nearestPoint, originOf } from "./points";

const { document, readings } = splitProject(glasshouseRound());
const tapes = markedTapes(document, readings);
const points = fieldPoints(tapes, document.targets, makeAxis("hue", 300), makeAxis("sat", 300));

/** Counts what is drawn. */
function fakeContext() {
  const drawn = { circles: 0, squares: 0, cells: 0 };
  const context = {
    beginPath() {},
    fill() {},
    stroke() {},
    arc: () => drawn.circles++,
    rect: () => drawn.squares++,
    fillRect: () => drawn.cells++,
  } as unknown as CanvasRenderingContext2D;
  return { context, drawn };
}

describe("the points of the field", () => {
  it("are the marked readings that have a hue, each with its origin", () => {
    let expected = 0;
    for (const { block, truth } of tapes) {
      for (let i = 0; i < truth.length; i++) if (truth[i] !== 0 && !Number.isNaN(block.column("hue")[i])) expected++;
    }
    expect(points.count).toBe(expected);
    const { source, t } = originOf(points, 100);
    const tape = tapes.find((x) => x.head.id === source);
    const index = tape?.block.indexAt(t) ?? -1;
    expect(points.y[100]).toBeCloseTo(tape?.block.column("sat")[index] ?? Number.NaN, 6);
  });

  it("are found by the pointer when one is near enough", () => {
    const [width, height] = [600, 300];
    const n = 50;
    const [x, y] = [points.x[n] * width, (1 - points.y[n]) * height];
    const found = nearestPoint(points, x + 0.01, y, width, height, 7);
    expect(Math.hypot(points.x[found] * width - x, (1 - points.y[found]) * height - y)).toBeLessThan(0.1);
    expect(nearestPoint(points, -50, -50, width, height, 7)).toBe(-1);
  });

  it("are circles for targets and squares for backgrounds", () => {
    const { context, drawn } = fakeContext();
    drawPoints(context, points, 600, 300);
    const grounds = points.ground.slice(0, points.count).reduce((sum, g) => sum + g, 0);
    expect(drawn).toEqual({ circles: points.count - grounds, squares: grounds, cells: 0 });
  });

  it("become a picture of density when there are very many", () => {
    const n = 20_000;
    const many: FieldPoints = {
      ...points,
      count: n,
      x: Float32Array.from({ length: n }, (_, i) => (i % 10) / 10),
      y: new Float32Array(n).fill(0.5),
      colour: new Uint8Array(3 * n),
      ground: new Uint8Array(n),
      tape: new Uint8Array(n),
      index: new Uint32Array(n),
    };
    const { context, drawn } = fakeContext();
    drawPoints(context, many, 600, 300);
    expect(drawn).toEqual({ circles: 0, squares: 0, cells: 10 });
  });
});
