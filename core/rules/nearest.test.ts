import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { numbered, type SensorId, type TargetId, type Unlisted } from "../names";
import { featureReader, featuresOf, ReadingBlock, type Scaling, type Sensor } from "../readings";
import { classify, classifyBlock, labelMargin, NearestRules, type Reference, type RuleSet, ruleSetOf, why } from ".";
import { arbitraryReadings, arbitraryReferences, SMALL_SENSOR, SOME_TARGETS } from "./arbitrary";

const [coral, teal] = SOME_TARGETS;
const nearestSet = (references: Unlisted<Reference>[], reject = 0.3): RuleSet => ({
  id: "floor" as RuleSet["id"],
  name: "Floor",
  method: "nearest",
  rules: [],
  nearest: { references: numbered("reference", references), reject },
  steady: { hits: 1, of: 1, release: 1, rejoinMs: 0 },
});
const hueSensor: Scaling = { reports: "hue", scale: { hue: [0, 360] } };
const hue = (degrees: number) => featureReader(hueSensor)([degrees]);

describe("the nearest method", () => {
  const set = nearestSet([
    { target: coral, hue: 10, sat: 0.8, val: 0.8 },
    { target: teal, hue: 180, sat: 0.8, val: 0.5 },
  ]);

  it("gives the target of the nearest reference, and unknown beyond the reject distance", () => {
    expect(classify(set, featuresOf(0.8, 0.25, 0.16))).toBe(coral);
    expect(classify(set, featuresOf(0.1, 0.5, 0.5))).toBe(teal);
    expect(classify(set, featuresOf(0.05, 0.05, 0.05))).toBe("unknown");
  });

  it("measures in the cone: two greys differ in value alone, whatever their hue", () => {
    const grey = nearestSet([{ target: coral, sat: 0, val: 0.5 }]);
    expect(why(grey, featuresOf(0.7, 0.7, 0.7)).references[0].distance).toBeCloseTo(0.2, 12);
  });

  it("has the stated margin", () => {
    const features = featuresOf(0.8, 0.25, 0.16);
    const [{ distance: d1 }, { distance: d2 }] = why(set, features).references;
    expect(labelMargin(set, features)).toBe(Math.min((d2 - d1) / (d2 + d1), (0.3 - d1) / 0.3));
    const alone = nearestSet([set.nearest.references[0]]);
    expect(labelMargin(alone, features)).toBe(Math.min(1, (0.3 - d1) / 0.3));
    expect(labelMargin(set, featuresOf(0.05, 0.05, 0.05))).toBeLessThan(0);
  });

  it("compares hues along the chord, across 0°", () => {
    const hues = nearestSet([{ target: coral, hue: 350 }], 0.4);
    expect(why(hues, hue(10)).references[0].distance).toBeCloseTo(2 * Math.sin((10 * Math.PI) / 180), 12);
    expect(classify(hues, hue(10))).toBe(coral);
    expect(classify(hues, hue(40))).toBe("unknown");
  });

  it("never takes a reference of another kind of sensor", () => {
    const other = nearestSet([{ target: coral, reflected: 0.5 }], 2);
    expect(classify(other, hue(10))).toBe("unknown");
    expect(new NearestRules(other.nearest).margin(hue(10))).toBe(1);
  });

  it("labels a block as it labels its readings one by one", () => {
    fc.assert(
      fc.property(arbitraryReadings, arbitraryReferences, (readings, nearest) => {
        const any = { ...nearestSet([]), nearest };
        const block = new ReadingBlock(readings, SMALL_SENSOR);
        const labels = classifyBlock(any, block, SOME_TARGETS);
        for (let i = 0; i < block.length; i++) {
          const label = classify(any, block.at(i));
          expect(labels[i]).toBe(label === "unknown" ? 0 : SOME_TARGETS.indexOf(label) + 1);
        }
      }),
    );
  });

  it("says which references lie how far, and which reject distance would alter the answer", () => {
    const far = why(set, featuresOf(0.05, 0.05, 0.05));
    expect(far.references.map((r) => r.index)).toEqual([1, 0]);
    expect(far.change).toMatchObject({ place: "reject", label: teal });
    const value = far.change?.value ?? 0;
    const wider = { ...set, nearest: { ...set.nearest, reject: value } };
    expect(classify(wider, featuresOf(0.05, 0.05, 0.05))).toBe(teal);
  });
});

describe("a sensor with codes of its own", () => {
  const sensor = {
    id: "eye" as SensorId,
    ruleSet: "floor" as Sensor["ruleSet"],
    reports: "code",
    scale: {},
    codes: { 3: coral as TargetId, 7: teal as TargetId },
  } as unknown as Sensor;
  const set = ruleSetOf({ ruleSets: [nearestSet([])] }, sensor);
  const read = featureReader(sensor);

  it("says the target that a code is mapped to, and unknown for any other code", () => {
    expect([3, 7, 0, 4].map((code) => classify(set, read([code])))).toEqual([coral, teal, "unknown", "unknown"]);
    expect(labelMargin(set, read([3]))).toBe(0.5);
  });
});
