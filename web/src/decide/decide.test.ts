import { numbered, type RuleId, type TargetId } from "@perceptum/core/names";
import type { Rule, RuleSet } from "@perceptum/core/rules";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeAxis, pannedPart, zoomedPart } from "./field/axis";
import { regionsOf } from "./field/regions";
import { ruleSentence, ruleShort } from "./ruleWords";

describe("an axis of the field", () => {
  it("cuts the hue circle at its seam and comes back to whole degrees", () => {
    const hue = makeAxis("hue", 300);
    expect([hue.at(300), hue.at(0), hue.at(120)]).toEqual([0, 60 / 360, 180 / 360]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 359 }), fc.integer({ min: 0, max: 359 }), (seam, value) => {
        const axis = makeAxis("hue", seam);
        expect(axis.value(axis.at(value))).toBe(value);
      }),
    );
  });

  it("goes by whole per cents and stays on its range", () => {
    const sat = makeAxis("sat", 300);
    expect(sat.value(0.4242)).toBe(0.42);
    expect([sat.moved(0.95, 0.2), sat.moved(0.05, -0.2)]).toEqual([1, 0]);
    expect(makeAxis("hue", 300).moved(350, 20)).toBe(10);
  });
});

describe("a part of an axis", () => {
  it("keeps the value under the pointer at its place when zoomed, and never leaves the axis", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        (around, factor) => {
          const part = zoomedPart([0.2, 0.7], around, factor);
          expect(part[0]).toBeGreaterThanOrEqual(0);
          expect(part[1]).toBeLessThanOrEqual(1 + 1e-12);
          const [from, to] = zoomedPart([0.4, 0.6], around, 0.5);
          expect(from + around * (to - from)).toBeCloseTo(0.4 + around * 0.2, 9);
        },
      ),
    );
    expect(pannedPart([0.2, 0.4], 10)).toEqual([0.8, 1]);
  });

  it("has finer ticks the narrower it is, and lays values outside beyond 0..1", () => {
    const part = makeAxis("sat", 300, [0.5, 0.6]);
    expect(part.ticks.length).toBeGreaterThan(3);
    expect(part.at(0.4)).toBeLessThan(0);
    expect(part.value(0.5)).toBeCloseTo(0.55, 9);
    expect([makeAxis("hue", 300).start, makeAxis("hue", 300).end]).toEqual([0, 1]);
  });
});

describe("the regions of the nearest method", () => {
  const reference = (target: string, hue: number) => ({ target: target as TargetId, hue, sat: 0.8, val: 0.6 });
  const set = {
    method: "nearest",
    rules: [],
    nearest: { references: [reference("coral", 0), reference("teal", 180)], reject: 0.4 },
  } as unknown as RuleSet;

  it("go to the nearest reference, and to none beyond the reject distance", () => {
    const regions = regionsOf(set, makeAxis("hue", 300), makeAxis("sat", 300));
    const at = (column: number, row: number) => regions?.labels[row * (regions?.columns ?? 0) + column];
    expect([at(16, 8), at(64, 8), at(40, 8)]).toEqual(["coral", "teal", null]);
  });

  it("are not drawn along features that the method does not measure by", () => {
    expect(regionsOf(set, makeAxis("light", 300), makeAxis("sat", 300))).toBeUndefined();
  });
});

describe("a rule in words", () => {
  const rule = (any: Rule["any"]): Rule => ({ id: "r" as RuleId, target: "coral" as TargetId, on: true, any });

  it("names bands, open ends and the way through 0°", () => {
    const coral = rule([
      {
        id: "clause-1" as never,
        all: [
          { feature: "hue", from: 350, to: 16 },
          { feature: "sat", from: 0.6 },
          { feature: "val", to: 0.29 },
        ],
      },
    ]);
    expect(ruleShort(coral)).toBe("hue 350–16° · sat ≥ 60 % · val ≤ 29 %");
    expect(ruleSentence(coral, "Coral tag")).toBe(
      "A reading is taken for Coral tag when its hue is from 350° through 0° to 16°, saturation is at least 60 % and value is at most 29 %.",
    );
  });

  it("names several clauses, none, and turned tests", () => {
    expect(
      ruleSentence(
        rule(
          numbered("clause", [
            { all: [{ feature: "r", from: 0.5 }] },
            { all: [{ feature: "light", from: 10, to: 20, not: true }] },
          ]),
        ),
        "X",
      ),
    ).toBe("A reading is taken for X when its red is at least 50 %, or when its lightness is not from 10 to 20.");
    expect(ruleSentence(rule([]), "X")).toBe("Nothing is taken for X.");
    expect(ruleShort(rule([]))).toBe("never");
  });
});
