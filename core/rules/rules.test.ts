import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nextFloat } from "../arithmetic";
import { numbered, type RuleId, type RuleSetId, type TargetId } from "../names";
import { FEATURE_FACTS, FEATURES, featuresOf, ReadingBlock } from "../readings";
import {
  bandOf,
  classify,
  classifyBlock,
  classifyBlockAgain,
  colourLabeller,
  firstMatch,
  freeTargetCode,
  labeller,
  labelMargin,
  type RuleSet,
  rulesOfBlock,
  SieveMemory,
  setBound,
  smallestChange,
  steady,
  steadyBlock,
  steadyingOf,
  Target,
  type Test,
  testAt,
  testHolds,
  testMargin,
  why,
} from ".";
import {
  arbitraryReadings,
  arbitraryRuleSet,
  arbitrarySteady,
  arbitraryTest,
  SMALL_SENSOR,
  SOME_TARGETS,
} from "./arbitrary";

const unit = fc.double({ min: 0, max: 1, noNaN: true });

function ruleSet(...rules: [target: string, ...tests: Test[]][]): RuleSet {
  return {
    id: "floor" as RuleSetId,
    name: "Floor",
    method: "bands",
    nearest: { references: [], reject: 0.25 },
    rules: rules.map(([target, ...all], i) => ({
      id: `r${i}` as RuleId,
      target: target as TargetId,
      on: true,
      any: numbered("clause", [{ all }]),
    })),
    steady: { hits: 1, of: 1, release: 1, rejoinMs: 0 },
  };
}

describe("a band", () => {
  const red: Test = { feature: "hue", from: 350, to: 20 };

  it("from 350 to 20 holds at 0 and at both ends, and nowhere else", () => {
    expect([350, 0, 20, 359.9].map((h) => testHolds(red, h))).toEqual([true, true, true, true]);
    expect([349.9, 20.1, 180].map((h) => testHolds(red, h))).toEqual([false, false, false]);
  });

  it("with an open end goes on to the end of the range", () => {
    expect(testHolds({ feature: "sat", from: 0.5 }, 1)).toBe(true);
    expect(testHolds({ feature: "sat", to: 0.5 }, 0)).toBe(true);
    expect(testHolds({ feature: "sat", to: 0.5 }, 0.6)).toBe(false);
  });

  it("fails for NaN, turned round or not", () => {
    expect(testHolds(red, Number.NaN)).toBe(false);
    expect(testHolds({ ...red, not: true }, Number.NaN)).toBe(false);
    expect(testMargin({ ...red, not: true }, Number.NaN)).toBe(-1);
  });

  it("has the margin of its nearer end over the span", () => {
    expect(testMargin(red, 10)).toBeCloseTo(10 / 180, 12);
    expect(testMargin(red, 355)).toBeCloseTo(5 / 180, 12);
    expect(testMargin(red, 30)).toBeCloseTo(-10 / 180, 12);
    expect(testMargin({ feature: "sat", from: 0.5, to: 0.8 }, 0.9)).toBeCloseTo(-0.1, 12);
    expect(testMargin({ feature: "light", from: 20 }, 45)).toBeCloseTo(0.25, 12);
  });

  it("has margin 0 on a bound, where it holds", () => {
    expect(testMargin(red, 350)).toBe(0);
    expect(testHolds(red, 350)).toBe(true);
  });

  it("has a positive margin only where it holds, and a negative one only where it does not", () => {
    fc.assert(
      fc.property(arbitraryTest, unit, (test, share) => {
        const value =
          test.feature === "hue"
            ? share * 359.9
            : test.feature === "light" || test.feature === "chroma"
              ? share * 100
              : share;
        const margin = testMargin(test, value);
        expect(margin).toBeGreaterThanOrEqual(-1);
        expect(margin).toBeLessThanOrEqual(1);
        if (margin > 0) expect(testHolds(test, value)).toBe(true);
        if (margin < 0) expect(testHolds(test, value)).toBe(false);
      }),
    );
  });
});

describe("rules", () => {
  const set = ruleSet(["coral", { feature: "r", from: 0.5 }], ["teal", { feature: "g", from: 0.2 }]);

  it("are taken in order: the first match gives the label", () => {
    expect(classify(set, featuresOf(0.9, 0.9, 0))).toBe("coral");
    expect(classify(set, featuresOf(0.4, 0.9, 0))).toBe("teal");
    expect(classify(set, featuresOf(0.4, 0.1, 0))).toBe("unknown");
  });

  it("that are off do not match", () => {
    const off = { ...set, rules: set.rules.map((r, i) => ({ ...r, on: i > 0 })) };
    expect(classify(off, featuresOf(0.9, 0.9, 0))).toBe("teal");
  });

  it("give the margin of the winner, or of the earlier rule that nearly won", () => {
    expect(labelMargin(set, featuresOf(0.9, 0, 0))).toBeCloseTo(0.4, 12);
    expect(labelMargin(set, featuresOf(0.45, 0.9, 0))).toBeCloseTo(0.05, 12);
    expect(labelMargin(set, featuresOf(0.4, 0.1, 0))).toBeCloseTo(0.1, 12);
  });

  it("without any rule leave everything unknown, as far from another label as can be", () => {
    expect(classify(ruleSet(), featuresOf(1, 0, 0))).toBe("unknown");
    expect(labelMargin(ruleSet(), featuresOf(1, 0, 0))).toBe(1);
  });

  it("label a block as they label its readings one by one", () => {
    fc.assert(
      fc.property(arbitraryRuleSet, arbitraryReadings, (rules, raw) => {
        const block = new ReadingBlock(raw, SMALL_SENSOR);
        const labels = classifyBlock(rules, block, SOME_TARGETS);
        const labelOf = labeller(rules, SOME_TARGETS);
        const ofColour = colourLabeller(rules, SOME_TARGETS);
        for (let i = 0; i < block.length; i++) {
          const features = block.at(i);
          const label = classify(rules, features);
          expect(labels[i]).toBe(label === "unknown" ? 0 : SOME_TARGETS.indexOf(label) + 1);
          expect(labelOf(features)).toBe(labels[i]);
          expect(ofColour(features.r, features.g, features.b)).toBe(labels[i]);
        }
      }),
      { numRuns: 400 },
    );
  });

  it("label a block the same with a memory of the rules before", () => {
    fc.assert(
      fc.property(
        fc.array(arbitraryRuleSet, { minLength: 2, maxLength: 5 }),
        fc.integer({ min: 1, max: 40 }),
        arbitraryReadings,
        (sets, again, raw) => {
          const block = new ReadingBlock(raw, SMALL_SENSOR);
          const memory = new SieveMemory();
          // Forwards and back, and with more clauses than go into one group, so that all of it is met again changed.
          for (const rules of [...sets, ...sets.toReversed()]) {
            const many = { ...rules, rules: Array.from({ length: again }, () => rules.rules).flat() };
            expect(classifyBlockAgain(many, block, SOME_TARGETS, memory).labels).toEqual(
              classifyBlock(many, block, SOME_TARGETS),
            );
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("label a block the same while one bound is moved to and fro", () => {
    const bound = fc.record({
      rule: fc.nat(3),
      feature: fc.constantFrom(...FEATURES),
      end: fc.constantFrom("from" as const, "to" as const),
      value: fc.option(fc.integer({ min: 0, max: 20 }), { nil: undefined }),
    });
    fc.assert(
      fc.property(
        arbitraryRuleSet,
        fc.array(bound, { minLength: 1, maxLength: 12 }),
        arbitraryReadings,
        (set, moves, raw) => {
          const block = new ReadingBlock(raw, SMALL_SENSOR);
          const memory = new SieveMemory();
          let moved = set;
          let before = new Uint8Array(block.length);
          for (const { rule, feature, end, value } of moves) {
            const { id, any } = moved.rules[rule % Math.max(1, moved.rules.length)] ?? {};
            const most = FEATURE_FACTS[feature].max;
            if (id !== undefined && any !== undefined && any.length > 0)
              moved = setBound(
                moved,
                { rule: id, clause: any[0].id, feature, end },
                value && (value / 20) * most,
                true,
              );
            const { labels, changed } = classifyBlockAgain(moved, block, SOME_TARGETS, memory);
            expect(labels).toEqual(classifyBlock(moved, block, SOME_TARGETS));
            // With what is told to have changed, the labels before become those now.
            if (changed !== null) {
              changed.at.forEach((i, k) => {
                expect(before[i]).toBe(changed.was[k]);
                before[i] = labels[i];
              });
              expect(before).toEqual(labels);
            }
            before = labels.slice();
          }
        },
      ),
      { numRuns: 150 },
    );
  });

  it("label a block by more clauses than fit into one number", () => {
    const many = ruleSet(
      ...Array.from({ length: 70 }, (_, k): [string, Test] => [
        `t-${k}`,
        { feature: "r", from: k / 70, to: k / 70 + 0.002 },
      ]),
    );
    const targets = many.rules.map((r) => r.target);
    const n = 1401;
    const sensor: typeof SMALL_SENSOR = { reports: "rgb", scale: { r: [0, 1400], g: [0, 1], b: [0, 1] } };
    const block = new ReadingBlock(
      {
        t: new Float64Array(n),
        channels: { r: Float64Array.from({ length: n }, (_, i) => i), g: new Float64Array(n), b: new Float64Array(n) },
      },
      sensor,
    );
    const labels = classifyBlock(many, block, targets);
    for (let i = 0; i < n; i++)
      expect(labels[i] === 0 ? "unknown" : targets[labels[i] - 1]).toBe(classify(many, block.at(i)));
    expect(new Set(labels).size).toBe(71);
  });

  it("label a block that is longer than one stride", () => {
    const n = 5000;
    const raw = {
      t: Float64Array.from({ length: n }, (_, i) => i),
      channels: {
        r: Float64Array.from({ length: n }, (_, i) => i % 13),
        g: new Float64Array(n),
        b: new Float64Array(n),
      },
    };
    const labels = classifyBlock(set, new ReadingBlock(raw, SMALL_SENSOR), SOME_TARGETS);
    expect([...labels].every((label, i) => label === (i % 13 >= 6 ? 1 : 0))).toBe(true);
  });

  it("do not count more than 255 targets", () => {
    const many = Array.from({ length: 256 }, (_, i) => `t-${i}` as TargetId);
    expect(() =>
      classifyBlock(
        set,
        new ReadingBlock(
          { t: new Float64Array(), channels: { r: new Float64Array(), g: new Float64Array(), b: new Float64Array() } },
          SMALL_SENSOR,
        ),
        many,
      ),
    ).toThrow(/255/);
  });
});

describe("why", () => {
  it("names winner, next, and every test's value", () => {
    const set = ruleSet(["coral", { feature: "r", from: 0.5 }], ["teal", { feature: "g", from: 0.2 }]);
    const reasons = why(set, featuresOf(0.9, 0.9, 0));
    expect([reasons.winner, reasons.next, reasons.label]).toEqual([0, 1, "coral"]);
    expect(reasons.rules[1].clauses[0][0]).toMatchObject({ value: 0.9, holds: true });
  });

  it("finds a change that does alter the label, and none that is smaller", () => {
    fc.assert(
      fc.property(arbitraryRuleSet, unit, unit, unit, (set, r, g, b) => {
        const features = featuresOf(r, g, b);
        const change = smallestChange(set, features);
        if (change === undefined) return;
        expect(classify(setBound(set, change.place, change.value), features)).toBe(change.label);
        expect(change.label).not.toBe(classify(set, features));
        // Half the way must not be enough, except where the bound already lies on the value.
        if (change.cost < 1e-9) return;
        const test = testAt(set, change.place) as Test;
        if (test.feature === "hue") return;
        const half = ((test[change.place.end] ?? 0) + change.value) / 2;
        expect(classify(setBound(set, change.place, half), features)).not.toBe(change.label);
      }),
      { numRuns: 300 },
    );
  });

  it("steps to the very next number", () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e300, max: 1e300 }), (x) => {
        expect(nextFloat(x, 1)).toBeGreaterThan(x);
        expect(nextFloat(x, -1)).toBeLessThan(x);
        const middle = x + (nextFloat(x, 1) - x) / 2;
        expect(middle === x || middle === nextFloat(x, 1)).toBe(true);
      }),
    );
  });
});

describe("moving a bound", () => {
  const set = ruleSet(["coral", { feature: "sat", from: 0.5 }]);

  it("adds a test where the feature is not tested yet, and drops one that is left open", () => {
    const place = { rule: "r0" as RuleId, clause: set.rules[0].any[0].id, end: "from" as const };
    const added = setBound(set, { ...place, feature: "val" }, 0.3);
    expect(added.rules[0].any[0].all).toEqual([
      { feature: "sat", from: 0.5 },
      { feature: "val", from: 0.3 },
    ]);
    const open = { ...place, feature: "sat" as const };
    expect(setBound(added, open, undefined, true).rules[0].any[0].all).toEqual([{ feature: "val", from: 0.3 }]);
    expect(setBound(added, open, undefined).rules[0].any[0].all[0]).toEqual({ feature: "sat" });
  });

  it("does not take a test that is turned round for the band", () => {
    expect(bandOf([{ feature: "sat", from: 0.5, not: true }], "sat")).toBe(-1);
  });
});

describe("steadying", () => {
  const usual = { hits: 2, of: 3, release: 2, rejoinMs: 100 };

  /** Runs labels through, 20 ms apart, and writes events as words. */
  function story(labels: number[], settings = usual): string[] {
    // Another place beside it that reads something else all the time.
    const state = steadyingOf([settings, { ...settings, of: settings.of + 2 }]);
    return labels.flatMap((label, i) => {
      const before = state.seen[0];
      steady(state, 1, (label + i) % 3, i * 20);
      steady(state, 0, label, i * 20);
      const [departs, arrives] = [state.goes[0], state.comes[0]];
      const rejoins = arrives === 0 && state.seen[0] !== 0 && state.seen[0] !== before;
      return [
        ...(departs ? [`${i} departs ${departs}`] : []),
        ...(arrives ? [`${i} arrives ${arrives}`] : []),
        ...(rejoins ? [`${i} rejoins`] : []),
      ];
    });
  }

  it("waits for its hits among the last readings", () => {
    expect(story([1, 0, 1])).toEqual(["2 arrives 1"]);
    expect(story([1, 0, 0, 1])).toEqual([]);
  });

  it("gives up after as many readings without, and not sooner", () => {
    expect(story([1, 1, 0, 1, 0, 0])).toEqual(["1 arrives 1", "5 departs 1"]);
  });

  it("lets another target take over with a departure first", () => {
    expect(story([1, 1, 2, 2])).toEqual(["1 arrives 1", "3 departs 1", "3 arrives 2"]);
  });

  it("takes a quick return with nothing but unknown between for the same visit", () => {
    expect(story([1, 1, 0, 0, 1, 1])).toEqual(["1 arrives 1", "3 departs 1", "5 rejoins"]);
    expect(story([1, 1, 0, 0, 0, 0, 0, 0, 0, 0, 1, 1])).toEqual(["1 arrives 1", "3 departs 1", "11 arrives 1"]);
    expect(story([1, 1, 2, 2, 1, 1]).filter((e) => e.includes("rejoins"))).toEqual([]);
  });

  it("sees in a block what it sees reading by reading", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 80 }), arbitrarySteady, (labels, settings) => {
        const seen = steadyBlock(Uint8Array.from(labels), settings);
        const state = steadyingOf([settings]);
        labels.forEach((label, i) => {
          steady(state, 0, label, i * 20);
          expect(seen[i]).toBe(state.seen[0]);
        });
      }),
      { numRuns: 500 },
    );
  });
});

it("which rule takes a reading of a block is the first that matches it alone", () => {
  fc.assert(
    fc.property(arbitraryRuleSet, arbitraryReadings, (set, raw) => {
      const block = new ReadingBlock(raw, SMALL_SENSOR);
      const taken = rulesOfBlock(set, block);
      for (let i = 0; i < block.length; i++) expect(taken[i]).toBe(firstMatch(set, block.at(i)) + 1);
    }),
  );
});

describe("a free code", () => {
  it.each([
    ["Plum", "tag", [], "PL"],
    ["Plaster", "tag", ["PL"], "PA"],
    ["Plum", "background", ["PA"], "pl"],
    ["2nd bed", "tag", ["ND"], "NB"],
    ["Bed 2", "tag", ["BE", "BD"], "B2"],
    ["Äpfel", "tag", [], "AP"],
    ["!", "card", [], "XX"],
    ["Q", "tag", ["QX"], "Q2"],
  ] as const)("for “%s”, a %s beside %j, is %s", (name, kind, taken, code) => {
    expect(freeTargetCode(name, kind, taken)).toBe(code);
    expect(Target.shape.code.safeParse(code).success).toBe(true);
  });
});
