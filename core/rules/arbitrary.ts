import fc from "fast-check";
import { numbered, type RuleId, type RuleSetId, type TargetId } from "../names";
import { FEATURE_FACTS, FEATURES, type RawReadings, type Scaling } from "../readings";
import type { Rule, RuleSet, Steady, Test } from "./ruleSetSchema";

/** Targets of generated rule sets. */
export const SOME_TARGETS = ["coral", "teal", "amber", "slate"] as TargetId[];

/** Bounds that readings of a small raw scale hit exactly, again and again. */
const bound = (max: number) => fc.integer({ min: 0, max: 12 }).map((n) => (n / 12) * max);

export const arbitraryTest: fc.Arbitrary<Test> = fc.constantFrom(...FEATURES).chain((feature) =>
  fc
    .record({
      a: fc.option(bound(FEATURE_FACTS[feature].max), { nil: undefined }),
      b: fc.option(bound(FEATURE_FACTS[feature].max), { nil: undefined }),
      not: fc.boolean(),
    })
    .map(({ a, b, not }) => {
      const turned = feature !== "hue" && a !== undefined && b !== undefined && a > b;
      const [from, to] = turned ? [b, a] : [a, b];
      return { feature, ...(from !== undefined && { from }), ...(to !== undefined && { to }), ...(not && { not }) };
    }),
);

export const arbitrarySteady: fc.Arbitrary<Steady> = fc
  .record({
    hits: fc.integer({ min: 1, max: 5 }),
    more: fc.integer({ min: 0, max: 4 }),
    release: fc.integer({ min: 1, max: 6 }),
    rejoinMs: fc.constantFrom(0, 20, 100),
  })
  .map(({ hits, more, release, rejoinMs }) => ({ hits, of: hits + more, release, rejoinMs }));

export const arbitraryRuleSet: fc.Arbitrary<RuleSet> = fc
  .record({
    rules: fc.array(
      fc.record({
        target: fc.constantFrom(...SOME_TARGETS),
        on: fc.boolean(),
        any: fc.array(fc.array(arbitraryTest, { maxLength: 3 }), { maxLength: 3 }),
      }),
      { maxLength: 5 },
    ),
    steady: arbitrarySteady,
  })
  .map(({ rules, steady }) => ({
    id: "floor" as RuleSetId,
    name: "Floor",
    method: "bands",
    nearest: { references: [], reject: 0.25 },
    rules: rules.map(
      ({ any, ...rest }, i): Rule => ({
        ...rest,
        id: `rule-${i}` as RuleId,
        any: numbered(
          "clause",
          any.map((all) => ({ all })),
        ),
      }),
    ),
    steady,
  }));

const twelfth = fc.integer({ min: 0, max: 12 }).map((n) => n / 12);

/** References of every kind mixed, some of which a given sensor cannot be compared with. */
export const arbitraryReferences: fc.Arbitrary<RuleSet["nearest"]> = fc.record({
  references: fc
    .array(
      fc.oneof(
        fc.record({
          target: fc.constantFrom(...SOME_TARGETS),
          hue: fc.integer({ min: 0, max: 359 }),
          sat: twelfth,
          val: twelfth,
        }),
        fc.record({ target: fc.constantFrom(...SOME_TARGETS), hue: fc.integer({ min: 0, max: 359 }) }),
        fc.record({ target: fc.constantFrom(...SOME_TARGETS), reflected: twelfth }),
      ),
      { maxLength: 8 },
    )
    .map((references) => numbered("reference", references)),
  reject: fc.integer({ min: 1, max: 24 }).map((n) => n / 12),
});

/** A raw value on a scale of 0..12, sometimes beyond its ends. */
const value = fc.integer({ min: -2, max: 14 });

/** Raw readings on a scale of 0..12, every 20 ms. */
export const arbitraryReadings: fc.Arbitrary<RawReadings> = fc
  .array(fc.tuple(value, value, value), {
    maxLength: 60,
  })
  .map((rows) => ({
    t: Float64Array.from(rows, (_, i) => i * 20),
    channels: {
      r: Float64Array.from(rows, (row) => row[0]),
      g: Float64Array.from(rows, (row) => row[1]),
      b: Float64Array.from(rows, (row) => row[2]),
    },
  }));

export const SMALL_SENSOR: Scaling = { reports: "rgb", scale: { r: [0, 12], g: [0, 12], b: [0, 12] } };
