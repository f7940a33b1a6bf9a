import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type Cluster,
  clusterInterval,
  cubeRoot,
  expMinus,
  fifthRoot,
  nextFloat,
  normalQuantile,
  sinCos,
  studentT,
  wilson,
} from ".";

/** The greatest difference that a relative error leaves, and a little for the last bits. */
function within(value: number, wanted: number, relative: number): void {
  expect(Math.abs(value - wanted)).toBeLessThanOrEqual(relative * Math.abs(wanted) + 1e-15);
}

/** The share of the standard normal distribution below `x`, by Simpson's rule from 0: a route of its own. */
function normalShare(x: number): number {
  const n = 2000;
  const h = x / n;
  const density = (u: number) => Math.exp((-u * u) / 2) / Math.sqrt(2 * Math.PI);
  let sum = density(0) + density(x);
  for (let i = 1; i < n; i++) sum += density(i * h) * (i % 2 === 1 ? 4 : 2);
  return 0.5 + (sum * h) / 3;
}

describe("sine and cosine of degrees", () => {
  it("are those of the platform", () => {
    fc.assert(
      fc.property(fc.double({ min: -3600, max: 3600, noNaN: true }), (degrees) => {
        const { sin, cos } = sinCos(degrees);
        const angle = (degrees * Math.PI) / 180;
        expect(Math.abs(sin - Math.sin(angle))).toBeLessThan(1e-13);
        expect(Math.abs(cos - Math.cos(angle))).toBeLessThan(1e-13);
      }),
      { numRuns: 1000 },
    );
  });

  it("are exact where the axes are, so that a robot that turns by quarters stays on its grid", () => {
    for (const [degrees, sin, cos] of [
      [0, 0, 1],
      [90, 1, 0],
      [180, 0, -1],
      [270, -1, 0],
      [-90, -1, 0],
      [720, 0, 1],
    ]) {
      const got = sinCos(degrees);
      expect([got.sin + 0, got.cos + 0]).toEqual([sin, cos]);
    }
  });

  it("lie on the circle", () => {
    fc.assert(
      fc.property(fc.double({ min: -720, max: 720, noNaN: true }), (degrees) => {
        const { sin, cos } = sinCos(degrees);
        within(sin * sin + cos * cos, 1, 1e-14);
      }),
    );
  });
});

describe("e to the power of −x", () => {
  it("is that of the platform", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 700, noNaN: true }), (x) => {
        within(expMinus(x), Math.exp(-x), 1e-12);
      }),
      { numRuns: 1000 },
    );
  });

  it("is 1 at 0 and never rises", () => {
    expect(expMinus(0)).toBe(1);
    for (let x = 0; x < 50; x += 0.01) expect(expMinus(x + 0.01)).toBeLessThan(expMinus(x));
  });
});

describe("the normal quantile", () => {
  // From tables of the normal distribution, to nine places.
  it.each([
    [0.5, 0],
    [0.8413447460685429, 1],
    [0.9772498680518208, 2],
    [0.975, 1.959963985],
    [0.995, 2.575829304],
    [0.9995, 3.290526731],
  ])("of %f is %f, and that of the rest its opposite", (p, x) => {
    expect(Math.abs(normalQuantile(p) - x)).toBeLessThan(1e-8);
    expect(Math.abs(normalQuantile(1 - p) + x)).toBeLessThan(1e-8);
  });

  it("leaves the share below it that it was asked for", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.0005, max: 0.9995, noNaN: true }), (p) => {
        expect(Math.abs(normalShare(normalQuantile(p)) - p)).toBeLessThan(1e-8);
      }),
    );
  });
});

describe("roots", () => {
  it("give the number back, to the last bits", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.08, max: 2, noNaN: true }), (x) => {
        const cube = cubeRoot(x);
        const fifth = fifthRoot(x);
        within(cube * cube * cube, x, 4e-15);
        within(fifth * fifth * fifth * fifth * fifth, x, 6e-15);
        within(cube, Math.cbrt(x), 1e-15);
      }),
      { numRuns: 1000 },
    );
  });
});

describe("the next float", () => {
  const floats = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e300, max: 1e300 });

  it("is the nearest: nothing lies between", () => {
    fc.assert(
      fc.property(floats, (x) => {
        const up = nextFloat(x, 1);
        expect(up).toBeGreaterThan(x);
        const middle = x / 2 + up / 2;
        expect(middle === x || middle === up || Object.is(middle, -0) || Math.abs(x) < 1e-300).toBe(true);
      }),
    );
  });

  it("comes back", () => {
    fc.assert(
      fc.property(floats, (x) => {
        expect(nextFloat(nextFloat(x, 1), -1)).toBe(x + 0);
        expect(nextFloat(-x, -1)).toBe(-nextFloat(x, 1));
      }),
    );
  });

  it("crosses zero and the powers of two", () => {
    expect(nextFloat(0, 1)).toBe(Number.MIN_VALUE);
    expect(nextFloat(0, -1)).toBe(-Number.MIN_VALUE);
    expect(nextFloat(1, 1)).toBe(1 + Number.EPSILON);
    expect(nextFloat(1, -1)).toBe(1 - Number.EPSILON / 2);
  });
});

describe("Wilson's interval", () => {
  // Newcombe 1998, "Two-sided confidence intervals for the single proportion", table I, method 3.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])("of %i in %i is %f to %f", (hits, n, low, high) => {
    const [from, to] = wilson(hits / n, n);
    expect([from.toFixed(4), to.toFixed(4)]).toEqual([low.toFixed(4), high.toFixed(4)]);
  });

  it("holds the share, stays within 0..1, mirrors, and narrows with more trials", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, share) => {
        const p = Math.round(share * n) / n;
        const [low, high] = wilson(p, n);
        expect(low).toBeGreaterThanOrEqual(0);
        expect(high).toBeLessThanOrEqual(1);
        expect(p).toBeGreaterThanOrEqual(low - 1e-12);
        expect(p).toBeLessThanOrEqual(high + 1e-12);
        const [mirroredLow, mirroredHigh] = wilson(1 - p, n);
        within(mirroredLow, 1 - high, 1e-9);
        within(mirroredHigh, 1 - low, 1e-9);
        const [closerLow, closerHigh] = wilson(p, n * 4);
        expect(closerHigh - closerLow).toBeLessThan(high - low);
      }),
    );
    expect(wilson(0.5, 0)).toEqual([0, 1]);
  });
});

describe("the interval of a share that rests on clusters", () => {
  const cluster = fc
    .integer({ min: 1, max: 60 })
    .chain((n) => fc.record({ n: fc.constant(n), right: fc.integer({ min: 0, max: n }) }));
  const clusters = fc.array(cluster, { minLength: 2, maxLength: 40 });
  const shareOf = (all: readonly Cluster[]) =>
    all.reduce((sum, { right }) => sum + right, 0) / all.reduce((sum, { n }) => sum + n, 0);

  it("holds the share, lies in 0..1, and is mirrored with it", () => {
    fc.assert(
      fc.property(clusters, (all) => {
        const [low, high] = clusterInterval(all);
        const share = shareOf(all);
        expect(low).toBeGreaterThanOrEqual(0);
        expect(high).toBeLessThanOrEqual(1);
        expect(low - 1e-12).toBeLessThanOrEqual(share);
        expect(high + 1e-12).toBeGreaterThanOrEqual(share);
        const [mirroredLow, mirroredHigh] = clusterInterval(all.map(({ n, right }) => ({ n, right: n - right })));
        expect(mirroredLow).toBeCloseTo(1 - high, 9);
        expect(mirroredHigh).toBeCloseTo(1 - low, 9);
      }),
    );
  });

  it("does not change with empty clusters or the order, and is the wider the more trials of a cluster agree", () => {
    const one = [3, 0, 1, 1, 1, 0, 1, 1].map((right, i) => ({ n: i === 0 ? 4 : 1, right }));
    expect(clusterInterval([{ n: 0, right: 0 }, ...one.toReversed()])).toEqual(clusterInterval(one));
    const width = (all: readonly Cluster[]) => clusterInterval(all)[1] - clusterInterval(all)[0];
    const mixed = Array.from({ length: 20 }, (_, i) => ({ n: 10, right: 6 + (i % 3) }));
    const whole = Array.from({ length: 20 }, (_, i) => ({ n: 10, right: i < 14 ? 10 : 0 }));
    expect(width(whole)).toBeGreaterThan(3 * width(mixed));
  });

  it("is Wilson's where every cluster is one trial and they are many", () => {
    const all = Array.from({ length: 4000 }, (_, i) => ({ n: 1, right: i % 5 === 0 ? 0 : 1 }));
    const [low, high] = wilson(0.8, 4000);
    expect(clusterInterval(all)[0]).toBeCloseTo(low, 3);
    expect(clusterInterval(all)[1]).toBeCloseTo(high, 3);
  });

  it("holds the truth where few visits are much more wrong than the others", () => {
    let state = 1;
    const uniform = () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return (state + 0.5) / 2 ** 32;
    };
    // Of 20 visits of 10 to 160 readings 2 are on average of a thing that is missed half of the time.
    const visit = (): Cluster => {
      const n = Math.round(10 * 2 ** (4 * uniform()));
      const share = uniform() < 0.9 ? 0.995 : uniform();
      return {
        n,
        right: Array.from({ length: n }, () => (uniform() < share ? 1 : 0)).reduce<number>((a, b) => a + b, 0),
      };
    };
    const truth = 0.9 * 0.995 + 0.1 * 0.5;
    let held = 0;
    for (let i = 0; i < 400; i++) {
      const [low, high] = clusterInterval(Array.from({ length: 20 }, visit));
      if (low <= truth && truth <= high) held++;
    }
    expect(held / 400).toBeGreaterThan(0.93);
  });

  it("rests on the clusters, not on their trials, where all agree", () => {
    expect(clusterInterval(Array.from({ length: 12 }, () => ({ n: 300, right: 300 })))).toEqual(wilson(1, 12));
    expect(clusterInterval([])).toEqual([0, 1]);
    expect(clusterInterval([{ n: 50, right: 50 }])).toEqual(wilson(1, 1));
  });

  it("goes by Student's t as it is tabulated", () => {
    for (const [freedom, t] of [
      [1, 12.706],
      [2, 4.303],
      [3, 3.182],
      [5, 2.571],
      [10, 2.228],
      [30, 2.042],
      [120, 1.98],
    ])
      expect(Math.abs(studentT(freedom) - t), String(freedom)).toBeLessThan(0.011);
    expect(studentT(1.5)).toBeGreaterThan(studentT(1.6));
  });
});
