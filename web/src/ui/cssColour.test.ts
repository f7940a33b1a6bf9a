import { glasshouseRound } from "@perceptum/core/demo";
import {
  type Channel,
  type RawReadings,
  REPORT_KINDS,
  ReadingBlock,
  type Report,
  type Sensor,
} from "@perceptum/core/readings";
import { describe, expect, it } from "vitest";
import { colourOf, cssColour, shownByte } from "./cssColour";

const [base] = glasshouseRound().sensors;

/** A block of one sensor's readings, on a scale of 0..1. */
function block(reports: Report, readings: number[][]): ReadingBlock {
  const { channels } = REPORT_KINDS.get(reports);
  const scale = Object.fromEntries(channels.map((c) => [c, [0, 1]]));
  const { reference: _, order: __, ...rest } = base;
  const columns = channels.map(
    (name, c) => [name, Float64Array.from(readings, (r) => r[c])] as [Channel, Float64Array],
  );
  const raw: RawReadings = {
    t: Float64Array.from(readings, (_r, i) => i),
    channels: Object.fromEntries(columns),
  };
  return new ReadingBlock(raw, { ...rest, reports, scale } as Sensor);
}

describe("what a reading looks like", () => {
  it("goes through the curve of the screen, and stays within it", () => {
    expect([0, 1, -3, 7].map(shownByte)).toEqual([0, 255, 0, 255]);
    // Half of the light is far more than half of the screen's scale.
    expect(shownByte(0.5)).toBe(188);
    for (let i = 1; i <= 100; i++) expect(shownByte(i / 100)).toBeGreaterThanOrEqual(shownByte((i - 1) / 100));
    expect(cssColour(1, 0.5, 0)).toBe("rgb(255 188 0)");
  });

  it("is its own colour where the sensor gives one", () => {
    const paint = colourOf(
      block("rgb", [
        [1, 0, 0],
        [0, 1, 0],
      ]),
    );
    expect([paint(0), paint(1)]).toEqual(["rgb(255 0 0)", "rgb(0 255 0)"]);
  });

  it("is the hue where that is all there is", () => {
    expect(colourOf(block("hue", [[0.5]]))(0)).toBe("hsl(180 70% 50%)");
  });

  it("is a grey where only light is measured", () => {
    expect(colourOf(block("reflected", [[0], [1]]))(1)).toBe("rgb(255 255 255)");
    expect(colourOf(block("reflected", [[0], [1]]))(0)).toBe("rgb(0 0 0)");
  });

  it("tells codes apart by their greys, nothing being the lightest", () => {
    const paint = colourOf(block("code", [[0], [1], [2], [3]]));
    const greys = [0, 1, 2, 3].map(paint);
    expect(new Set(greys).size).toBe(4);
    const bytes = greys.map((grey) => Number(/\d+/.exec(grey)?.[0]));
    expect(Math.max(...bytes)).toBe(bytes[0]);
  });
});
