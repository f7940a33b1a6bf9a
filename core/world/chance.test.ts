import { describe, expect, it } from "vitest";
import { chance } from "./chance";

const SEEDS = 10_000;

/** The first draws of a use, over seeds that follow each other. */
const firsts = (use: string, skip = 0) =>
  Array.from({ length: SEEDS }, (_, seed) => {
    const stream = chance(seed + 1, use);
    for (let i = 0; i < skip; i++) stream.uniform();
    return stream.uniform();
  });

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((x, y) => x + y, 0) / v.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [ab, aa, bb] = [0, 0, 0];
  a.forEach((x, i) => {
    ab += (x - ma) * (b[i] - mb);
    aa += (x - ma) ** 2;
    bb += (b[i] - mb) ** 2;
  });
  return ab / Math.sqrt(aa * bb);
}

describe("draws", () => {
  it("are uniform over seeds, in their first draw and in later ones", () => {
    for (const skip of [0, 1, 7]) {
      const bins = new Array(20).fill(0);
      for (const x of firsts("patch 0", skip)) bins[Math.floor(x * 20)]++;
      // Chi-square with 19 degrees of freedom: 43.8 is passed once in a thousand.
      const expected = SEEDS / 20;
      expect(bins.reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0)).toBeLessThan(43.8);
    }
  });

  it.each([
    ["patch 0", "patch 1"],
    ["card 0", "card 1"],
    ["card 1", "card 10"],
    ["motors", "noise of belly"],
    ["sign 2", "patch 2"],
  ])("for %s and for %s are independent over 10,000 seeds", (one, other) => {
    const [a, b] = [firsts(one), firsts(other)];
    // Of two, half agree: five standard deviations are 2.5 %.
    const agree = a.filter((x, i) => x < 0.5 === b[i] < 0.5).length / SEEDS;
    expect(Math.abs(agree - 0.5)).toBeLessThan(0.025);
    expect(Math.abs(correlation(a, b))).toBeLessThan(0.05);
  });

  it("of seeds that follow each other are independent, and so are draws that follow each other", () => {
    const a = firsts("patch 0");
    expect(Math.abs(correlation(a.slice(1), a.slice(0, -1)))).toBeLessThan(0.05);
    expect(Math.abs(correlation(a, firsts("patch 0", 1)))).toBeLessThan(0.05);
  });

  it("are the same again for the same seed and use, and differ for seeds beyond 32 bits", () => {
    const draws = (seed: number) => {
      const stream = chance(seed, "noise");
      return Array.from({ length: 5 }, () => stream.uniform());
    };
    expect(draws(12)).toEqual(draws(12));
    expect(draws(12 + 2 ** 32)).not.toEqual(draws(12));
  });

  it("are normal with mean 0 and variance 1", () => {
    const stream = chance(3, "noise");
    const values = Array.from({ length: 20_000 }, () => stream.normal());
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length).toBeCloseTo(1, 1);
  });
});
