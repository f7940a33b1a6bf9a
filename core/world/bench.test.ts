import { describe, expect, it } from "vitest";
import { glasshouseRound } from "../demo";
import type { TargetId } from "../names";
import { splitProject } from "../project";
import { featureReader } from "../readings";
import { BenchStand, type StandSettings, sweepHeights } from ".";

const { document } = splitProject(glasshouseRound());
const [sensor] = document.sensors;
const { lights, targets } = document;
const coral = "coral" as TargetId;
const still: StandSettings = {
  under: coral,
  beside: null,
  share: 0,
  light: lights[0].id,
  height: 14,
  tilt: 0,
  tremble: 0,
};

function meanOf(settings: Partial<StandSettings>, n = 60) {
  const read = featureReader(sensor);
  const stand = new BenchStand(sensor, lights, targets, { ...still, ...settings }, 3);
  const features = Array.from({ length: n }, () => read(stand.read()));
  const mean = (f: "val" | "r" | "b") => features.reduce((sum, x) => sum + x[f], 0) / n;
  const val = mean("val");
  const deviation = Math.sqrt(features.reduce((sum, x) => sum + (x.val - val) ** 2, 0) / (n - 1));
  return { val, r: mean("r"), b: mean("b"), deviation };
}

describe("the bench", () => {
  it("reads nothing of its own lamp when too near, and the room when too far", () => {
    expect(meanOf({ height: 1 }).val).toBeLessThan(0.3 * meanOf({}).val);
    const dim = meanOf({ height: 100, light: lights[0].id }).val;
    expect(meanOf({ height: 100, light: lights[1].id }).val).toBeGreaterThan(1.5 * dim);
  });

  it("reads white brighter than any target, and dark darker", () => {
    const white = meanOf({ under: "white-card" }).val;
    for (const { id } of targets) expect(meanOf({ under: id }).val).toBeLessThan(white);
    expect(meanOf({ under: "dark-cap" }).val).toBeLessThan(meanOf({ under: "open-air" }).val + 0.02);
  });

  it("blends what lies at an edge", () => {
    const [a, b] = [meanOf({}), meanOf({ under: "teal" as TargetId })];
    const half = meanOf({ beside: "teal" as TargetId, share: 0.5 });
    expect(half.r).toBeCloseTo((a.r + b.r) / 2, 1);
    expect(half.b).toBeCloseTo((a.b + b.b) / 2, 1);
  });

  it("gets back less when tilted, and wanders when the hand trembles", () => {
    expect(meanOf({ tilt: 40 }).val).toBeLessThan(0.8 * meanOf({}).val);
    expect(meanOf({ tremble: 3 }, 400).deviation).toBeGreaterThan(3 * meanOf({}, 400).deviation);
  });

  it("gives the same readings for the same seed", () => {
    const read = () => {
      const stand = new BenchStand(sensor, lights, targets, still, 11);
      return Array.from({ length: 5 }, () => stand.read());
    };
    expect(read()).toEqual(read());
  });
});

describe("the height sweep", () => {
  const sweep = sweepHeights(sensor, lights, targets, still, [coral, "teal" as TargetId], "hue");

  it("has a mean at every height and marks where the things read well and apart", () => {
    expect(sweep.heights).toHaveLength(121);
    expect(sweep.things.map((t) => t.mean.length)).toEqual([121, 121]);
    const [from, to] = sweep.usable ?? [0, 0];
    expect(from).toBeGreaterThanOrEqual(sensor.optics.minMm);
    expect(from).toBeLessThanOrEqual(sensor.optics.bestMm);
    expect(to).toBeGreaterThanOrEqual(sensor.optics.bestMm);
    // In weak room light the sensor's own lamp decides.
    expect(Math.abs((sweep.best ?? 0) - sensor.optics.bestMm)).toBeLessThanOrEqual(6);
  });

  it("has no usable range for two things that read the same", () => {
    expect(sweepHeights(sensor, lights, targets, still, [coral, coral], "hue").usable).toBeUndefined();
  });
});
