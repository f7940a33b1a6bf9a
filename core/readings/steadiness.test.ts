import { describe, expect, it } from "vitest";
import { isMoving } from ".";

/** Noise with a deviation of about 3, the same at each call. */
const noise = (i: number) => 3 * Math.sin(i * 12.9898) * Math.sqrt(2);
const values = (f: (i: number) => number, n = 50) => Array.from({ length: n }, (_, i) => f(i));

describe("whether values move", () => {
  it("is not told of noise, however small the value is that it lies on", () => {
    expect(
      isMoving(
        values((i) => 6 + noise(i)),
        10,
      ),
    ).toBe(false);
    expect(
      isMoving(
        values((i) => 900 + 8 * noise(i)),
        10,
      ),
    ).toBe(false);
  });

  it("is told where they drift, jump or swing slowly", () => {
    expect(
      isMoving(
        values((i) => 500 + i + noise(i)),
        10,
      ),
    ).toBe(true);
    expect(
      isMoving(
        values((i) => (i < 30 ? 500 : 560) + noise(i)),
        10,
      ),
    ).toBe(true);
    expect(
      isMoving(
        values((i) => 500 + 40 * Math.sin(i / 8) + noise(i)),
        10,
      ),
    ).toBe(true);
  });

  it("needs more way than is allowed, and something to go by", () => {
    expect(
      isMoving(
        values((i) => 500 + i / 10),
        10,
      ),
    ).toBe(false);
    expect(isMoving([1, 900], 10)).toBe(false);
  });
});
