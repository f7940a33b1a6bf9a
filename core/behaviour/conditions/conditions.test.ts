import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { SensorId, TargetId } from "../../names";
import { parsePhrase } from "../../phrases";
import { must, NAMES } from "../arbitrary";
import { Stand, type Stands } from "../engine/arbitrary";
import {
  CONDITIONS,
  type Condition,
  ConditionSchema,
  conditionKindOf,
  namedCondition,
  parseCondition,
  partsThatMustHold,
  printCondition,
  tellCondition,
} from ".";

const read = (phrase: string): Condition => must(parsePhrase(phrase, NAMES, parseCondition));
const target = fc.constantFrom(...(NAMES.targets as TargetId[]));
const sensor = fc.option(fc.constantFrom(...(NAMES.sensors as SensorId[])), { nil: undefined });
const of = (id: SensorId | undefined) => (id === undefined ? {} : { sensor: id });

const leaf: fc.Arbitrary<Condition> = fc.oneof(
  fc
    .tuple(fc.uniqueArray(fc.oneof(target, fc.constant("unknown" as const)), { minLength: 1, maxLength: 3 }), sensor)
    .map(([seen, s]) => ({ seen, ...of(s) })),
  fc.tuple(fc.integer({ min: 0, max: 359 }), fc.integer({ min: 0, max: 359 }), sensor).map(([from, to, s]) => ({
    feature: "hue" as const,
    from,
    to,
    ...of(s),
  })),
  fc.tuple(fc.integer({ min: 0, max: 100 }), fc.constantFrom("from", "to"), fc.boolean()).map(([x, end, open]) => ({
    feature: "sat" as const,
    [end]: x / 100,
    ...(open && { open }),
  })),
  fc.integer({ min: -5, max: 5 }).map((from) => ({ count: "tally", from })),
  fc.integer({ min: 0, max: 9 }).map((n) => ({ list: "route", holds: n })),
  fc.constant({ button: "go" }),
  fc.tuple(target, fc.integer({ min: 1, max: 500 })).map(([blob, from]) => ({ blob, measure: "width" as const, from })),
  fc.tuple(target, target).map(([blob, other]) => ({ blob, side: "left" as const, of: other })),
);
const condition = fc.letrec<{ any: Condition }>((tie) => ({
  any: fc.oneof(
    { depthSize: "small", withCrossShrink: true },
    leaf,
    fc.array(tie("any"), { minLength: 2, maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie("any"), { minLength: 2, maxLength: 3 }).map((any) => ({ any })),
    tie("any").map((not) => ({ not })),
  ),
})).any;

/** A machine before which what is true is drawn by name. */
const moment = (seed: number): Stand => {
  const drawn = (text: string) => {
    let hash = seed;
    for (const c of text) hash = (hash * 31 + c.charCodeAt(0)) % 1009;
    return hash;
  };
  const seenBy = (s: string) => ["coral", "teal", "chalk", "unknown"][drawn(`seen ${s}`) % 4];
  const blob = (t: string) => (drawn(t) % 3 === 0 ? {} : { [t]: { width: drawn(t) % 500, x: drawn(t) } });
  return new Stand({}).put({
    seen: Object.fromEntries(["belly", ...NAMES.sensors].map((s) => [s as string, seenBy(s as string)])),
    feature: (f, s) => (drawn(`${f} ${s}`) % 5 === 0 ? Number.NaN : (drawn(`${f} ${s}`) % 100) / 100),
    counter: (seed % 11) - 5,
    length: seed % 10,
    pressed: seed % 2 === 0,
    still: seed % 3 === 0,
    blobs: { ...blob("coral"), ...blob("teal"), ...blob("chalk") },
  });
};

describe("whatever condition", () => {
  it("is kept by its schema, and its parts are those that must hold", () => {
    fc.assert(
      fc.property(condition, (c) => {
        expect(ConditionSchema.parse(c)).toEqual(c);
        for (const part of partsThatMustHold(c)) expect(conditionKindOf(part).needsAll).toBeUndefined();
      }),
    );
  });

  it("means the same once it is printed and read again", () => {
    fc.assert(
      fc.property(condition, fc.integer({ min: 0, max: 1000 }), (c, seed) => {
        const again = read(printCondition(c));
        const now = moment(seed);
        expect(now.holds(again)).toBe(now.holds(c));
        // What was read once is canonical.
        expect(read(printCondition(again))).toEqual(again);
      }),
    );
  });

  it("holds just where all of the parts that must hold do", () => {
    fc.assert(
      fc.property(condition, fc.integer({ min: 0, max: 1000 }), (c, seed) => {
        const now = moment(seed);
        expect(partsThatMustHold(c).every((part) => now.holds(part))).toBe(now.holds(c));
      }),
    );
  });

  it("holds where its parts do, as its own words say: all, one, or not", () => {
    fc.assert(
      fc.property(condition, fc.integer({ min: 0, max: 1000 }), (c, seed) => {
        const now = moment(seed);
        if ("all" in c) expect(now.holds(c)).toBe(c.all.every((part) => now.holds(part)));
        if ("any" in c) expect(now.holds(c)).toBe(c.any.some((part) => now.holds(part)));
        if ("not" in c) expect(now.holds(c)).toBe(!now.holds(c.not));
      }),
    );
  });

  it.each<[string, Stands, boolean]>([
    ["coral or teal", { seen: { belly: "teal" } }, true],
    ["unknown", {}, true],
    ["left-eye: coral", { seen: { belly: "coral" } }, false],
    ["left-eye: unknown", { seen: { belly: "coral" } }, true],
    ["hue 350..20", { feature: 10 }, true],
    ["hue 350..20", { feature: 350 }, true],
    ["hue 350..20", { feature: 180 }, false],
    ["sat >= 50 %", { feature: 0.5 }, true],
    ["sat > 50 %", { feature: 0.5 }, false],
    ["sat < 50 %", { feature: 0.5 }, false],
    ["sat < 50 %", {}, false],
    ["not (sat < 50 %)", {}, true],
    ["tally = 2", { counter: 2 }, true],
    ["tally 1..3", { counter: 4 }, false],
    ["route holds 2", { length: 2 }, true],
    ["button go", { pressed: true }, true],
    ["still", { t: 99, still: false }, false],
    ["still", {}, true],
    ["coral width >= 40 px", { blobs: { coral: { width: 40 } } }, true],
    ["coral width >= 40 px", { blobs: { teal: { width: 90 } } }, false],
    ["coral left of teal", { blobs: { coral: { x: 3 }, teal: { x: 4 } } }, true],
    ["coral right of teal", { blobs: { coral: { x: 3 }, teal: { x: 4 } } }, false],
    ["coral right of teal", { blobs: { coral: { x: 3 } } }, false],
  ])("%s, %#", (phrase, now, so) => {
    expect(new Stand({}).put(now).holds(read(phrase))).toBe(so);
  });

  it("names all that stands in its phrase, and stays the same when nothing is renamed", () => {
    fc.assert(
      fc.property(condition, (c) => {
        const found = new Set<string>();
        expect(
          namedCondition(c, (_, id) => {
            found.add(id);
            return id;
          }),
        ).toEqual(c);
        const words = new Set(printCondition(c).match(/[a-z][a-z-]*/g));
        const all = [...NAMES.targets, ...NAMES.sensors, ...NAMES.counters, ...NAMES.lists, ...NAMES.buttons];
        for (const name of all) expect(found.has(name), name).toBe(words.has(name));
      }),
    );
  });
});

describe("in plain words", () => {
  const name = (id: string) => ({ coral: "Coral tag", belly: "Belly sensor" })[id] ?? id;
  it.each([
    ["coral or unknown", "Coral tag or nothing known is seen"],
    ["belly: coral", "Coral tag is seen by Belly sensor"],
    ["belly: b >= 50 %", "blue >= 50 % by Belly sensor"],
    ["hue 350..20 and sat > 10 %", "hue 350..20 and saturation > 10 %"],
    ["not (coral and tally >= 2)", "not (Coral tag is seen and the count tally >= 2)"],
    ["not coral", "not Coral tag is seen"],
    ["tally <= 4", "the count tally <= 4"],
    [
      "tally = 2 and (button go or route holds 3)",
      "the count tally = 2 and (the button go is held down or the list route holds 3)",
    ],
    ["coral width > 100 px", "Coral tag width > 100 px"],
    ["coral left of chalk", "Coral tag is left of chalk"],
  ])("%s", (phrase, words) => {
    expect(tellCondition(read(phrase), name)).toBe(words);
  });
});

describe("a phrase that cannot be kept", () => {
  it.each([
    ["tally >= 1.5", /whole number/],
    ["route holds -1", /from 0 to 1000/],
    ["sat 60..40 %", /above its end/],
    ["coral area >= 1e21 px", /^1e21 is more than a phrase may hold$/],
    ["tally >= 123456789012", /more than a phrase may hold/],
    [`coral${" or coral".repeat(600)}`, /at most 4000 characters/],
  ])("%s is refused while it is typed", (phrase, message) => {
    expect(parsePhrase(phrase, NAMES, parseCondition)).toMatchObject({
      problem: { message: expect.stringMatching(message) },
    });
  });
});

describe("a condition in a file that no phrase could say", () => {
  it.each([
    [{ feature: "sat" }, /needs a bound/],
    [{ feature: "sat", from: 0.8, to: 0.2 }, /only a hue range/],
    [{ feature: "hue", from: 200, to: 260, open: true }, /not open/],
    [{ blob: "coral", measure: "width" }, /needs a bound/],
    [{ blob: "coral", measure: "width", from: 1e21 }, /./],
  ])("%j is refused", (condition, message) => {
    const read = ConditionSchema.safeParse(condition);
    expect(read.success).toBe(false);
    expect(JSON.stringify(read.error?.issues)).toMatch(message);
  });

  it("is one whatever else the schema takes: it is printed and read back as the same", () => {
    expect(ConditionSchema.safeParse({ feature: "hue", from: 350, to: 20 }).success).toBe(true);
    expect(read("code = 300".replace("=", ">="))).toEqual({ feature: "code", from: 300 });
  });
});

it("every kind of condition has a phrase that opens it", () => {
  const keys = new Set(
    [
      "coral",
      "hue 1..2",
      "tally = 1",
      "route holds 1",
      "button go",
      "still",
      "coral width > 1 px",
      "coral left of teal",
    ]
      .concat(["coral and tally = 1", "coral or tally = 1", "not coral"])
      .map((phrase) => conditionKindOf(read(phrase)).key),
  );
  expect(keys).toEqual(new Set(CONDITIONS.entries.map((kind) => kind.key)));
});
