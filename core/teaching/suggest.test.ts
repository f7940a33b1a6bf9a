import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { wilson } from "../arithmetic";
import { glasshouseRound } from "../demo";
import { numbered, type RuleId, type TargetId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import type { Feature } from "../readings";
import { applyChange, classifyBlock, type RuleSet, type Target } from "../rules";
import {
  judgeTapes,
  leaveOneLightOut,
  markedTapes,
  nearestFromMarks,
  partOf,
  referencesFromMarks,
  rejectFor,
  type Sample,
  sampleOf,
  suggest,
  tryRules,
  withSuggested,
} from ".";

const { document, readings } = splitProject(glasshouseRound());
const tapes = markedTapes(document, readings);
const sample = sampleOf(document, tapes, document.ruleSets[0].id);

/** A sample of a few readings: target (capital letters are targets, small ones backgrounds), light, features. */
function small(rows: [string, number, Partial<Record<Feature, number>>][]): Sample {
  const names = [...new Set(rows.map(([name]) => name))];
  const features = Object.keys(rows[0][2]) as Feature[];
  return {
    targets: names.map((name): Target => {
      const kind = name === name.toLowerCase() ? "background" : "tag";
      return { id: name.toLowerCase() as TargetId, code: "XX", name, kind, paint: "#808080" };
    }),
    lights: document.lights,
    features,
    count: rows.length,
    truth: Uint8Array.from(rows, ([name]) => names.indexOf(name) + 1),
    light: Uint8Array.from(rows, ([, light]) => light),
    visit: Uint32Array.from(rows, (_, i) => i),
    column: (f) => Float64Array.from(rows, ([, , values]) => values[f] ?? Number.NaN),
  };
}

describe("a sample", () => {
  it("holds every marked reading once, with its light and visit", () => {
    const marked = tapes.reduce((sum, t) => sum + t.truth.filter((x) => x > 0).length, 0);
    expect(sample.count).toBe(marked);
    expect(new Set(sample.light)).toEqual(new Set([1, 2]));
    expect(new Set(sample.visit).size).toBe(tapes.reduce((sum, t) => sum + t.head.marks.length, 0));
  });
});

describe("the suggestion", () => {
  const { rules, inseparable, unmarked } = suggest(sample);

  it("keeps every target of the demo from everything else, in at most three bands", () => {
    expect([inseparable, unmarked]).toEqual([[], []]);
    const trial = tryRules(
      sample,
      rules.map((r) => r.rule),
    );
    expect(trial.grounds + trial.confused).toBe(0);
    expect(trial.right / trial.readings).toBeGreaterThan(0.99);
    for (const { rule } of rules) expect(rule.any[0].all.length).toBeLessThanOrEqual(3);
  });

  it("says what each band was for, in the marked readings' figures", () => {
    const coral = rules.find((r) => r.target.id === "coral");
    expect(coral?.sentence).toMatch(/Terracotta rim readings for Coral tag; with .* none is left.*, margin 0\.\d\d\./);
    expect(coral?.bands).toHaveLength(coral?.rule.any[0].all.length ?? 0);
    expect((coral?.found ?? 0) / (coral?.of ?? 1)).toBeGreaterThan(0.99);
  });

  it("has coral's hue in one band through 0°", () => {
    const hue = rules.find((r) => r.target.id === "coral")?.rule.any[0].all.find((t) => t.feature === "hue");
    expect(hue?.from).toBeGreaterThan(hue?.to ?? 0);
  });

  it("does not test the hue of what is too grey to have one", () => {
    const chalk = rules.find((r) => r.target.id === "chalk");
    expect(chalk?.rule.any[0].all.map((t) => t.feature)).not.toContain("hue");
  });

  it("accepted whole, judges the tapes at least as well as the rules that were there", () => {
    const changed = applyChange<ProjectDocument>(document, {
      ruleSet: document.ruleSets[0].id,
      rules: rules.map((r) => r.rule),
    });
    expect(judgeTapes(changed, tapes).score.right).toBeGreaterThan(judgeTapes(document, tapes).score.right);
  });

  const testsOf = (rows: Parameters<typeof small>[0]) => suggest(small(rows)).rules[0].rule.any[0].all;

  it("puts bounds half-way to the nearest other reading, but not beyond the target's reach", () => {
    const [near] = testsOf([
      ...[0.5, 0.52, 0.54].map((sat): [string, number, { sat: number }] => ["T", 1, { sat }]),
      ["floor", 1, { sat: 0.44 }],
      ["wall", 1, { sat: 0.95 }],
    ]);
    expect(near.from).toBeCloseTo(0.47, 9);
    expect(near.to).toBeCloseTo(0.64, 9);
    const [half] = testsOf([
      ["T", 1, { sat: 0.5 }],
      ["floor", 1, { sat: 0.48 }],
    ]);
    expect(half.from).toBeCloseTo(0.49, 9);
  });

  it("keeps a target that is marked alone within its reach: a rule that tests nothing takes everything", () => {
    const [alone] = testsOf([0.4, 0.5].map((val): [string, number, { val: number }] => ["T", 1, { val }]));
    expect(alone).toEqual({ feature: "val", from: expect.closeTo(0.16, 9), to: expect.closeTo(0.74, 9) });
  });

  it("makes rules of targets marked once, whatever they are", () => {
    const percent = fc.integer({ min: 0, max: 100 }).map((n) => n / 100);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("A", "B", "floor"), percent, percent), { minLength: 1, maxLength: 6 }),
        (rows) => {
          const { rules } = suggest(small(rows.map(([name, sat, val]) => [name, 1, { sat, val }])));
          for (const { rule, found } of rules) {
            expect(rule.any[0].all.length).toBeGreaterThan(0);
            expect(found).toBeGreaterThan(0);
          }
        },
      ),
    );
  });

  it("leaves an end open beyond which nothing lies", () => {
    const [only] = testsOf([
      ["T", 1, { val: 0.5 }],
      ["floor", 1, { val: 0.3 }],
    ]);
    expect(only).toEqual({ feature: "val", from: 0.4 });
  });

  it("tests the value of a red on brown, which is where the gap is, and not the hue that both have", () => {
    const rows = [1, 2].flatMap((light) =>
      [0, 1, 2, 3, 4, 5].flatMap((i): [string, number, { hue: number; sat: number; val: number }][] => [
        ["T", light, { hue: (355 + 3 * i) % 360, sat: 0.93 + 0.005 * i, val: (light === 1 ? 0.45 : 0.8) + 0.02 * i }],
        [
          "earth",
          light,
          { hue: (352 + 4 * i) % 360, sat: 0.9 + 0.005 * i, val: (light === 1 ? 0.1 : 0.18) + 0.01 * i },
        ],
      ]),
    );
    const [made] = suggest(small(rows)).rules;
    expect(made.rule.any[0].all).toEqual([{ feature: "val", from: expect.closeTo(0.34, 9) }]);
    expect([made.found, made.taken]).toEqual([12, 0]);
  });

  it("tests hue with the saturation that it needs: grey ground has any hue", () => {
    const rows = [0, 1, 2, 3, 4, 5].flatMap((i): [string, number, { hue: number; sat: number; val: number }][] => [
      ["T", 1, { hue: 30 + i, sat: 0.8 + 0.01 * i, val: 0.5 }],
      ["leaf", 1, { hue: 120 + i, sat: 0.8 + 0.01 * i, val: 0.5 }],
      ["slate", 1, { hue: 180 + 20 * i, sat: 0.1 + 0.01 * i, val: 0.5 }],
    ]);
    expect(testsOf(rows)).toEqual([
      { feature: "hue", from: 12, to: 53 },
      { feature: "sat", from: expect.closeTo(0.6, 9) },
    ]);
  });

  it("names the pair that no band can separate", () => {
    const same = suggest(
      small([
        ["T", 1, { sat: 0.5, val: 0.2 }],
        ["T", 1, { sat: 0.6, val: 0.4 }],
        ["rim", 1, { sat: 0.55, val: 0.3 }],
        ["rim", 1, { sat: 0.2, val: 0.3 }],
      ]),
    );
    expect(same.inseparable).toEqual([{ target: "t", other: "rim", taken: 1, of: 2 }]);
    expect(same.rules[0].sentence).toContain("cannot be kept out");
    expect(same.refused).toEqual([]);
  });

  it("of one reading, of identical readings and of nothing comes to no harm", () => {
    expect(suggest(small([["T", 1, { sat: 0.5 }]])).rules[0].found).toBe(1);
    const twins = suggest(
      small([
        ["T", 1, { sat: 0.5 }],
        ["T", 1, { sat: 0.5 }],
        ["U", 1, { sat: 0.5 }],
      ]),
    );
    expect(twins.inseparable).toHaveLength(2);
    // A rule for either would take the other: none is better.
    expect([twins.rules, twins.refused]).toEqual([[], ["t", "u"]]);
    expect(suggest(partOf(sample, () => false))).toMatchObject({ rules: [], unmarked: expect.any(Array) });
  });

  it("prefers features that hold in a light which was left out", () => {
    // Value tells the two apart in each light alone, but moves with the light; saturation does not.
    const rows = [1, 2].flatMap((light) =>
      Array.from({ length: 10 }, (_, i): [string, number, { sat: number; val: number }][] => [
        ["T", light, { sat: 0.6 + i / 100, val: (light === 1 ? 0.3 : 0.6) + i / 200 }],
        ["floor", light, { sat: 0.4 + i / 100, val: (light === 1 ? 0.1 : 0.45) + i / 200 }],
      ]).flat(),
    );
    expect(suggest(small(rows)).rules[0].rule.any[0].all.map((t) => t.feature)).toEqual(["sat"]);
  });
});

describe("leaving one light out", () => {
  it("tries each light by rules made from the others", () => {
    const trials = leaveOneLightOut(sample);
    expect(trials.map((t) => t.light)).toEqual(["overcast", "noon-sun"]);
    expect(trials.reduce((sum, t) => sum + t.readings, 0)).toBe(sample.count);
    for (const t of trials) expect(t.right + t.missed + t.confused + t.grounds).toBe(t.readings);
  });

  it("says nothing where there is one light only", () => {
    expect(leaveOneLightOut(partOf(sample, (i) => sample.light[i] === 1))).toEqual([]);
  });
});

describe("references from marks", () => {
  it("are one for each target and light, backgrounds too, and judge the tapes well", () => {
    const references = referencesFromMarks(sample);
    expect(references).toHaveLength(2 * document.targets.length);
    const set: RuleSet = nearestFromMarks(document.ruleSets[0], sample);
    const project = { ...document, ruleSets: [set] };
    const { score } = judgeTapes(project, tapes);
    expect(score.right / score.marked).toBeGreaterThan(0.97);
    const labels = classifyBlock(
      set,
      tapes[0].block,
      document.targets.map((t) => t.id),
    );
    expect(labels.length).toBe(tapes[0].block.length);
  });

  it("have a reject distance that holds nearly all of the targets' own readings", () => {
    expect(rejectFor(sample, referencesFromMarks(sample))).toBeLessThan(0.5);
    expect(
      rejectFor(
        partOf(sample, () => false),
        [],
      ),
    ).toBe(0.25);
  });

  it("go round the circle, and leave a grey without a hue", () => {
    const round = referencesFromMarks(
      small([
        ["T", 0, { hue: 350 }],
        ["T", 0, { hue: 10 }],
      ]),
    );
    expect(round).toEqual([{ id: "reference-1", target: "t", hue: 0 }]);
    const grey = referencesFromMarks(small([["T", 0, { hue: Number.NaN, sat: 0, val: 0.4 }]]));
    expect(grey).toEqual([{ id: "reference-1", target: "t", sat: 0, val: 0.4 }]);
  });
});

describe("the Wilson interval", () => {
  it("has the published values for 8 of 10, and 0 and 1 as its ends", () => {
    const [low, high] = wilson(0.8, 10);
    expect(low).toBeCloseTo(0.4902, 4);
    expect(high).toBeCloseTo(0.9433, 4);
    expect(wilson(1, 20)).toEqual([expect.closeTo(0.8389, 4), 1]);
    expect(wilson(0, 20)[0]).toBe(0);
    expect(wilson(0.5, 0)).toEqual([0, 1]);
  });
});

it("a feature that was not reported passes no test, not even one with not", () => {
  const one = small([["Coral", 0, { hue: 10 }]]);
  const rule = (not: boolean) => ({
    id: "r" as RuleId,
    target: one.targets[0].id,
    on: true,
    any: numbered("clause", [{ all: [{ feature: "sat" as const, from: 0.5, not }] }]),
  });
  expect([rule(false), rule(true)].map((r) => tryRules(one, [r]).right)).toEqual([0, 0]);
});

describe("a suggestion that is taken", () => {
  const { rules: made } = suggest(sample);
  const own = (id: string, target: string) => ({ ...made[0].rule, id: id as RuleId, target: target as TargetId });
  const [one, other] = made.map((r) => r.rule);
  const before = [own(one.id, "refused"), own("b", one.target), own(`${one.id}-2`, "elsewhere")];

  it("whole takes the place of all rules but those of targets that it refused", () => {
    const taken = withSuggested(before, { rules: made, refused: ["refused" as TargetId] });
    expect(taken.map((r) => r.target)).toEqual([...made.map((r) => r.rule.target), "refused"]);
    expect(new Set(taken.map((r) => r.id)).size).toBe(taken.length);
  });

  it("in part leaves the rules of all other targets, and gives ids of its own", () => {
    const taken = withSuggested(before, { rules: made, refused: [] }, new Set([one.target]));
    expect(taken.map((r) => [r.id, r.target])).toEqual([
      [`${one.id}-3`, one.target],
      [one.id, "refused"],
      [`${one.id}-2`, "elsewhere"],
    ]);
    expect(taken.map((r) => r.target)).not.toContain(other.target);
  });
});
