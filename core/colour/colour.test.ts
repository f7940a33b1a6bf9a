import { converter, differenceCiede2000 } from "culori";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cubeRoot, fifthRoot } from "../arithmetic";
import { chromaOf, circularMean, hexToRgb, hsvToRgb, hueDistance, hueOf, lightOf, satOf, valOf } from ".";
import { displayToLinear, linearToDisplay } from "./srgb";

const toHsv = converter("hsv");
const toLab = converter("lab65");
const unit = fc.double({ min: 0, max: 1, noNaN: true });

describe("hexcone model", () => {
  it("gives the published corners: red 0°, yellow 60°, green 120°, cyan 180°, blue 240°, magenta 300°", () => {
    const corners = [
      [1, 0, 0],
      [1, 1, 0],
      [0, 1, 0],
      [0, 1, 1],
      [0, 0, 1],
      [1, 0, 1],
    ] as const;
    expect(corners.map(([r, g, b]) => hueOf(r, g, b))).toEqual([0, 60, 120, 180, 240, 300]);
  });

  it("agrees with an independent implementation", () => {
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        fc.pre(Math.max(r, g, b) - Math.min(r, g, b) > 0.01);
        const other = toHsv({ mode: "rgb", r, g, b });
        expect(hueDistance(hueOf(r, g, b), other.h ?? Number.NaN)).toBeLessThan(1e-9);
        expect(satOf(r, g, b)).toBeCloseTo(other.s, 12);
        expect(valOf(r, g, b)).toBeCloseTo(other.v, 12);
      }),
    );
  });

  it("gives grey no hue, up to a 1/1024 of full scale between the channels", () => {
    expect(hueOf(0.5, 0.5, 0.5)).toBeNaN();
    expect(hueOf(0.5 + 0.9 / 1024, 0.5, 0.5)).toBeNaN();
    expect(hueOf(0.5 + 1 / 1024, 0.5, 0.5)).toBe(0);
  });

  it("keeps every hue below 360", () => {
    expect(hueOf(1, 0, Number.MIN_VALUE)).toBe(0);
    fc.assert(
      fc.property(
        unit,
        unit,
        unit,
        (r, g, b) => Number.isNaN(hueOf(r, g, b)) || (hueOf(r, g, b) >= 0 && hueOf(r, g, b) < 360),
      ),
    );
  });

  it("comes back through its inverse", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        (h, s, v) => {
          const [r, g, b] = hsvToRgb(h, s, v);
          expect(hueDistance(hueOf(r, g, b), h)).toBeLessThan(1e-6);
          expect(satOf(r, g, b)).toBeCloseTo(s, 9);
        },
      ),
    );
  });
});

describe("lightness and chroma", () => {
  it("gives white 100 and 0, black 0 and 0", () => {
    expect(lightOf(1, 1, 1)).toBeCloseTo(100, 10);
    expect(chromaOf(1, 1, 1)).toBeCloseTo(0, 10);
    expect(lightOf(0, 0, 0)).toBeCloseTo(0, 10);
  });

  it("gives the published figures for the primaries of sRGB", () => {
    // Red: L* 53.24, C* 104.55; green: 87.73, 119.78; blue: 32.30, 133.81.
    expect(lightOf(1, 0, 0)).toBeCloseTo(53.24, 1);
    expect(chromaOf(1, 0, 0)).toBeCloseTo(104.55, 1);
    expect(lightOf(0, 1, 0)).toBeCloseTo(87.73, 1);
    expect(chromaOf(0, 1, 0)).toBeCloseTo(119.78, 1);
    expect(lightOf(0, 0, 1)).toBeCloseTo(32.3, 1);
    expect(chromaOf(0, 0, 1)).toBeCloseTo(133.81, 1);
  });

  it("lies within a hundredth of what can be seen of an independent implementation", () => {
    const difference = differenceCiede2000();
    fc.assert(
      fc.property(unit, unit, unit, (r, g, b) => {
        const other = toLab({ mode: "rgb", r, g, b });
        expect(Math.abs(lightOf(r, g, b) - other.l)).toBeLessThan(0.02);
        const own = chromaOf(r, g, b);
        const theirs = Math.hypot(other.a, other.b);
        const grey = { mode: "lab65", l: other.l, a: 0, b: 0 } as const;
        expect(Math.abs(own - theirs)).toBeLessThan(0.02 + 0.001 * difference(other, grey));
      }),
    );
  });

  it("takes roots from the four operations to the last digits", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.008, max: 2, noNaN: true }), (x) => {
        expect(cubeRoot(x) / Math.cbrt(x)).toBeCloseTo(1, 14);
        expect(fifthRoot(Math.max(0.08, x)) / Math.max(0.08, x) ** 0.2).toBeCloseTo(1, 14);
      }),
    );
  });

  it("goes from display to linear light and back", () => {
    fc.assert(fc.property(unit, (x) => Math.abs(linearToDisplay(displayToLinear(x)) - x) < 1e-7));
  });
});

describe("the hue circle", () => {
  it("takes the shorter way round", () => {
    expect(hueDistance(350, 20)).toBe(30);
    expect(hueDistance(20, 350)).toBe(30);
    expect(hueDistance(0, 180)).toBe(180);
  });

  it("has the mean of 350° and 10° at 0°, and leaves out greys", () => {
    const { mean, count } = circularMean([350, 10, Number.NaN]);
    expect(hueDistance(mean, 0)).toBeLessThan(1e-9);
    expect(count).toBe(2);
  });

  it("turns its mean along when all hues turn, and keeps the spread", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 100, max: 160, noNaN: true }), { minLength: 2, maxLength: 20 }),
        fc.integer({ min: 0, max: 359 }),
        (hues, turn) => {
          const a = circularMean(hues);
          const b = circularMean(hues.map((h) => (h + turn) % 360));
          expect(hueDistance(b.mean, (a.mean + turn) % 360)).toBeLessThan(1e-6);
          expect(b.spread).toBeCloseTo(a.spread, 4);
        },
      ),
    );
  });
});

it("reads colours byte by byte, as an independent implementation does", () => {
  const toRgb = converter("rgb");
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 0xffffff }), (n) => {
      const hex = `#${n.toString(16).padStart(6, "0")}`;
      const other = toRgb(hex);
      expect(hexToRgb(hex)).toEqual([other?.r, other?.g, other?.b]);
    }),
  );
});
