import { glasshouseRound } from "@perceptum/core/demo";
import { splitProject } from "@perceptum/core/project";
import { markedTapes } from "@perceptum/core/teaching";
import { describe, expect, it } from "vitest";
import { makeAxis } from "./axis";
import { densityOf, drawPoints, type FieldPoints, fieldPoints, nearestPoint, originOf } from "./points";

const { document, readings } = splitProject(glasshouseRound());
const tapes = markedTapes(document, readings);
const points = fieldPoints(tapes, document.targets, makeAxis("hue", 300), makeAxis("sat", 300));

/** Counts what is drawn. */
function fakeContext() {
  const drawn = { circles: 0, squares: 0 };
  const context = {
    beginPath() {},
    fill() {},
    stroke() {},
    arc: () => drawn.circles++,
    rect: () => drawn.squares++,
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
    expect(drawn).toEqual({ circles: points.count - grounds, squares: grounds });
  });

  it("become a picture of density when there are very many: cells in their mean colour, fuller the more lie in them", () => {
    const n = 20_000;
    // Nine in ten lie at the left, half of them red and half blue; the rest at the right is green.
    const left = (i: number) => i % 10 !== 0;
    const many: FieldPoints = {
      ...points,
      count: n,
      x: Float32Array.from({ length: n }, (_, i) => (left(i) ? 0.1 : 0.9)),
      y: new Float32Array(n).fill(0.5),
      colour: Uint8Array.from({ length: 3 * n }, (_, k) => {
        const [i, c] = [Math.floor(k / 3), k % 3];
        if (!left(i)) return c === 1 ? 255 : 0;
        return c === (i < n / 2 ? 0 : 2) ? 200 : 0;
      }),
      ground: new Uint8Array(n),
      tape: new Uint8Array(n),
      index: new Uint32Array(n),
    };
    const { columns, rows, data } = densityOf(many, 600, 300);
    expect(data).toHaveLength(4 * columns * rows);
    const filled = Array.from({ length: columns * rows }, (_, cell) => data.slice(4 * cell, 4 * cell + 4)).filter(
      ([, , , alpha]) => alpha > 0,
    );
    expect(filled.map((cell) => [...cell.slice(0, 3)])).toEqual([
      [100, 0, 100],
      [0, 255, 0],
    ]);
    expect(filled[0][3]).toBe(255);
    expect(filled[1][3]).toBe(212);
  });
});
