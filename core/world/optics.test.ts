import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { displayToLinear, hexToRgb } from "../colour";
import { glasshouseRound } from "../demo";
import type { LightId, TargetId } from "../names";
import { splitProject } from "../project";
import { featureReader, featuresOf, type Light, REPORT_KINDS, type Report, type Sensor } from "../readings";
import type { Target } from "../rules";
import { chance } from "./chance";
import { paintThatReads, SensorOptics } from "./optics";

const { document } = splitProject(glasshouseRound());
const [base] = document.sensors;
const light = document.lights[0];

/** A sensor without noise, of so many bits, which reads reflectance as it is. */
function plain(reports: Report, more: Partial<Sensor> = {}): Sensor {
  const scale = Object.fromEntries(REPORT_KINDS.get(reports).channels.map((c) => [c, [0, 65_535]]));
  const { reference: _, order: __, codes: ___, ...rest } = base;
  return {
    ...rest,
    reports,
    scale,
    optics: {
      ...base.optics,
      gain: [1, 1, 1],
      lampRgb: [1, 1, 1],
      glare: [0, 0, 0],
      read: 0,
      shot: 0,
      bits: 16,
      leakPerMm: 0,
    },
    ...more,
  } as Sensor;
}

const read = (sensor: Sensor, rgb: readonly number[], targets: readonly Target[] = []) =>
  new SensorOptics(sensor, light as Light, targets).measure(rgb, chance(1, "none"));

const fraction = fc.double({ min: 0.02, max: 1, noNaN: true });

describe("what a sensor says of a signal", () => {
  it.each(["rgb", "rgbc", "hsv"] as Report[])("%s comes back to the features of the colour", (reports) => {
    fc.assert(
      fc.property(fraction, fraction, fraction, (r, g, b) => {
        fc.pre(Math.max(r, g, b) - Math.min(r, g, b) > 0.02);
        const sensor = plain(reports);
        const features = featureReader(sensor)(read(sensor, [r, g, b]));
        const meant = featuresOf(r, g, b);
        expect(features.sat).toBeCloseTo(meant.sat, 2);
        expect(features.val).toBeCloseTo(meant.val, 3);
        const off = Math.abs(features.hue - meant.hue);
        expect(Math.min(off, 360 - off)).toBeLessThan(0.3);
      }),
    );
  });

  it("rgbc has the mean of the three as clear", () => {
    const sensor = plain("rgbc");
    expect(featureReader(sensor)(read(sensor, [0.9, 0.3, 0.3])).clear).toBeCloseTo(0.5, 3);
  });

  it("hue alone is the hue, and 0 for a grey, which has none", () => {
    const sensor = plain("hue");
    expect(featureReader(sensor)(read(sensor, [0.1, 0.8, 0.1])).hue).toBeCloseTo(120, 1);
    expect(read(sensor, [0.5, 0.5, 0.5])).toEqual([0]);
  });

  it("reflected light is the mean of the three, on the sensor's own scale", () => {
    const sensor = plain("reflected", { scale: { reflected: [0, 100] } });
    expect(read(sensor, [0.6, 0.3, 0.3])).toEqual([40]);
  });

  it("comes in the order of the wire", () => {
    const asked = [1, 0.5, 0];
    expect(read(plain("rgb"), asked)).toEqual([65_535, 32_768, 0]);
    expect(read(plain("rgb", { order: "bgr" }), asked)).toEqual([0, 32_768, 65_535]);
    expect(read(plain("rgb", { order: "grb" }), asked)).toEqual([32_768, 65_535, 0]);
  });

  it("on a scale of few units has decimals, on a wide one whole numbers", () => {
    expect(read(plain("rgb", { scale: { r: [0, 1], g: [0, 1], b: [0, 1] } }), [0.123456, 0, 1])).toEqual([
      0.1235, 0, 1,
    ]);
    expect(read(plain("rgb", { scale: { r: [0, 100], g: [0, 100], b: [-50, 50] } }), [0.123456, 0, 1])).toEqual([
      12, 0, 50,
    ]);
  });

  it("is held to the bits that it is measured with", () => {
    const sensor = plain("rgb", { optics: { ...plain("rgb").optics, bits: 2 } });
    const said = new Set(Array.from({ length: 50 }, (_, i) => read(sensor, [i / 49, 0, 0])[0]));
    expect([...said]).toEqual([0, 21_845, 43_690, 65_535]);
  });
});

describe("the paint that reads so", () => {
  it("is the one that was read, to the steps of its sensor, in any light", () => {
    const channel = fc.integer({ min: 0, max: 255 });
    const share = fc.double({ min: 0.3, max: 1.5, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(channel, channel, channel), fc.tuple(share, share, share), share, (paint, rgb, level) => {
        const light = { id: "some" as LightId, name: "Some", rgb, level };
        const sensor = plain("rgb");
        const optics = { ...sensor.optics, gain: [0.3, 0.35, 0.32], glare: [0.05, 0.04, 0.06], leakPerMm: 0.02 };
        const own = { ...sensor, optics } as Sensor;
        const signal = new Float64Array(3);
        const reflectance = paint.map((x) => displayToLinear(x / 255));
        new SensorOptics(own, light, []).signal(reflectance, own.optics.bestMm, signal);
        const read = [...signal] as [number, number, number];
        const hex = paintThatReads(own, light, read);
        expect([1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))).toEqual(paint);
      }),
    );
  });
});

describe("a sensor with codes of its own", () => {
  const targets = document.targets;
  const codes = { 3: "coral" as TargetId, 5: "teal" as TargetId, 9: "nobody" as TargetId };
  const sensor = plain("code", { scale: {}, codes });
  const over = (id: string) => hexToRgb(targets.find((t) => t.id === id)?.paint ?? "").map(displayToLinear);

  it("says the code of the paint that it lies over", () => {
    expect(read(sensor, over("coral"), targets)).toEqual([3]);
    expect(read(sensor, over("teal"), targets)).toEqual([5]);
  });

  it("says nothing over what it has no code for, and of a code whose target is not there", () => {
    expect(read(sensor, over("chalk"), targets)).toEqual([0]);
    expect(read(plain("code", { scale: {}, codes: { 9: "nobody" as TargetId } }), over("coral"), targets)).toEqual([0]);
  });
});
