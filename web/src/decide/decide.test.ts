import type { Rule, RuleId, TargetId } from "@perceptum/core/project";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { makeAxis } from "./field/axis";
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

describe("a rule in words", () => {
  const rule = (any: Rule["any"]): Rule => ({ id: "r" as RuleId, target: "coral" as TargetId, on: true, any });

  it("names bands, open ends and the way through 0°", () => {
    const coral = rule([
      {
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
        rule([{ all: [{ feature: "r", from: 0.5 }] }, { all: [{ feature: "light", from: 10, to: 20, not: true }] }]),
        "X",
      ),
    ).toBe("A reading is taken for X when its red is at least 50 %, or when its lightness is not from 10 to 20.");
    expect(ruleSentence(rule([]), "X")).toBe("Nothing is taken for X.");
    expect(ruleShort(rule([]))).toBe("never");
  });
});
