import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RUNNERS } from "../../trials/runCode";
import { nextFloat } from "../arithmetic";
import { glasshouseRound } from "../demo";
import type { RuleId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import { type Channel, type RawReadings, REPORT_KINDS, ReadingBlock, type Sensor, WIRE_ORDERS } from "../readings";
import { classifyBlock, type RuleSet, ruleSetOf, steadyBlock } from "../rules";
import { arbitraryReferences, arbitraryRuleSet, SMALL_SENSOR, SOME_TARGETS } from "../rules/arbitrary";
import { LANGUAGES, writeRules } from ".";

const { document, readings } = splitProject(glasshouseRound());

interface Case {
  sensor: Sensor;
  ruleSet: RuleSet;
  raw: RawReadings;
}

/** Sensors with rules of their own, all in one file of each language: label and seen of every reading are the core's. */
async function expectSame(cases: readonly Case[], base: ProjectDocument = document): Promise<void> {
  const sensors = cases.map(({ sensor, ruleSet }, i) => ({
    ...sensor,
    id: `eye-${i}` as Sensor["id"],
    ruleSet: ruleSet.id,
  }));
  const ruleSets = cases.map(({ ruleSet }) => ruleSet);
  const project = { ...base, sensors, ruleSets };
  const targets = base.targets.map((t) => t.id);
  const rows: number[][] = [];
  const wanted: number[][] = [];
  for (const [i, { raw }] of cases.entries()) {
    const ruleSet = ruleSetOf(project, sensors[i]);
    const labels = classifyBlock(ruleSet, new ReadingBlock(raw, sensors[i]), targets);
    const seen = steadyBlock(labels, ruleSet.steady);
    const columns = Object.values(raw.channels);
    for (let k = 0; k < raw.t.length; k++) {
      rows.push([i, raw.t[k], ...columns.map((column) => column[k])]);
      wanted.push([labels[k], seen[k]]);
    }
  }
  const coded = sensors.map(({ id, reports }) => ({ id, channels: REPORT_KINDS.get(reports).channels.length }));
  for (const language of LANGUAGES) {
    const got = await RUNNERS[language.key](writeRules(language, project, sensors), rows, coded);
    // The first that differs says more than all of them.
    const other = wanted.findIndex(([label, seen], k) => got[k]?.[0] !== label || got[k]?.[1] !== seen);
    if (other >= 0 || got.length !== wanted.length)
      expect({ language: language.name, row: rows[other], got: got[other], sensor: sensors[rows[other]?.[0]] }).toEqual(
        {
          got: wanted[other],
        },
      );
  }
}

const caseOf = (sensor: Sensor, ruleSet: RuleSet, raw: RawReadings): Case => ({ sensor, ruleSet, raw });
/** So many sensors with rule sets of their own, drawn. */
const numbered = <T extends { ruleSet: RuleSet }>(cases: readonly T[]): T[] =>
  cases.map((one, i) => ({ ...one, ruleSet: { ...one.ruleSet, id: `set-${i}` as RuleSet["id"] } }));

/** Every combination of raw values 0..steps − 1 of these channels. */
function everyRaw(channels: readonly Channel[], steps: number): RawReadings {
  const n = steps ** channels.length;
  const column = (k: number) => Float64Array.from({ length: n }, (_, i) => Math.floor(i / steps ** k) % steps);
  return {
    t: Float64Array.from({ length: n }, (_, i) => i * 20),
    channels: Object.fromEntries(channels.map((channel, k) => [channel, column(k)])),
  };
}

const few = document.targets.filter((t) => SOME_TARGETS.includes(t.id));
const { reference: _, ...bare } = document.sensors[0];
const small = (more: Partial<Sensor>) => ({ ...bare, ...SMALL_SENSOR, order: "rgb", ...more }) as Sensor;

describe("code", { timeout: 120_000 }, () => {
  it("gives the core's label and seen for every reading of the demo's tapes", async () => {
    const cases = document.tapes.map((tape): Case => {
      const sensor = document.sensors.find((s) => s.id === tape.sensor) as Sensor;
      return caseOf(sensor, ruleSetOf(document, sensor), readings.get(tape.id) as RawReadings);
    });
    await expectSame(numbered(cases));
  });

  it("gives the core's label for 10 000 readings at and around the bounds", async () => {
    // Around each bound, raw values that lie on it, a float beside it, and a little beside it.
    const { reference } = document.sensors[0];
    const bounds = document.ruleSets[0].rules.flatMap((r) =>
      r.any.flatMap((c) => c.all.flatMap((t) => (t.feature === "hue" ? [] : [t.from, t.to]))),
    );
    const values = bounds.flatMap((x) => {
      if (x === undefined || reference === undefined) return [];
      const raw = reference.dark[0] + x * (reference.white[0] - reference.dark[0]);
      return [raw, nextFloat(raw, 1), nextFloat(raw, -1), Math.round(raw), raw + 0.25];
    });
    values.push(0, 6, 860, 1023);
    const n = 10_000;
    const pick = (i: number, k: number) => values[(i * k + (i >> 3)) % values.length];
    const raw: RawReadings = {
      t: Float64Array.from({ length: n }, (_, i) => i * 20),
      channels: {
        r: Float64Array.from({ length: n }, (_, i) => pick(i, 7)),
        g: Float64Array.from({ length: n }, (_, i) => pick(i, 3) * (i % 5 === 0 ? 1 : 0.2)),
        b: Float64Array.from({ length: n }, (_, i) => pick(i, 11) * 0.15),
      },
    };
    const [sensor] = document.sensors;
    const labels = classifyBlock(
      document.ruleSets[0],
      new ReadingBlock(raw, sensor),
      document.targets.map((t) => t.id),
    );
    expect(new Set(labels).size).toBeGreaterThan(2);
    await expectSame([caseOf(sensor, document.ruleSets[0], raw)]);
  });

  it("gives the core's label for any rules, bounds hit exactly, every feature and wire order", async () => {
    const all = everyRaw(["r", "g", "b"], 13);
    const one = fc
      .tuple(arbitraryRuleSet, fc.constantFrom(...WIRE_ORDERS.map(({ id }) => id)), fc.boolean())
      .map(([ruleSet, order, calibrated]) => {
        const reference = {
          dark: [0, 1, 2] as [number, number, number],
          white: [11, 12, 10] as [number, number, number],
        };
        return caseOf(small({ order, ...(calibrated && { reference }) }), ruleSet, all);
      });
    await fc.assert(
      fc.asyncProperty(fc.array(one, { minLength: 12, maxLength: 12 }), (cases) =>
        expectSame(numbered(cases), { ...document, targets: few }),
      ),
      { numRuns: 2, endOnFailure: true },
    );
  });

  it("works lightness and chroma out to the last bit: bands that are one reading's own value take it", async () => {
    const all = everyRaw(["r", "g", "b"], 13);
    const sensor = small({});
    const block = new ReadingBlock(all, sensor);
    const cases = (["light", "chroma"] as const).map((feature) => {
      const values = block.column(feature);
      const any = Array.from({ length: 60 }, (_v, k) => values[(k * 997) % values.length]).map((value, k) => ({
        id: `clause-${k + 1}` as never,
        all: [{ feature, from: value, to: value }],
      }));
      const ruleSet = {
        ...document.ruleSets[0],
        rules: [{ id: "points" as RuleId, target: few[0].id, on: true, any }],
      };
      expect(classifyBlock(ruleSet, block, [few[0].id]).filter((label) => label === 1).length).toBeGreaterThan(40);
      return caseOf(sensor, ruleSet, all);
    });
    await expectSame(numbered(cases), { ...document, targets: few });
  });

  it("gives the core's label for any rules and references, whatever a sensor reports", async () => {
    const one = fc
      .tuple(fc.constantFrom(...REPORT_KINDS.keys), arbitraryRuleSet, arbitraryReferences, fc.boolean(), fc.boolean())
      .map(([reports, bands, nearest, byNearest, white]) => {
        const { channels, referenced } = REPORT_KINDS.get(reports);
        const all = everyRaw(channels, { 1: 400, 3: 11, 4: 6 }[channels.length] ?? 13);
        const span = reports === "hue" ? 360 : channels.length === 4 ? 5 : channels.length === 3 ? 10 : 400;
        const { order: __, ...rest } = bare;
        const sensor = {
          ...rest,
          reports,
          scale: reports === "code" ? {} : Object.fromEntries(channels.map((c) => [c, [0, span]])),
          ...(reports === "frames" && {
            frame: { width: 4, height: 3, rows: "top first" },
            clean: { erode: 0, dilate: 0 },
            minArea: 1,
          }),
          ...(reports === "code" && { codes: { 3: SOME_TARGETS[0], 12: SOME_TARGETS[2] } }),
          ...(white &&
            referenced && { reference: { dark: channels.map(() => 1), white: channels.map(() => span - 1) } }),
        } as Sensor;
        return caseOf(sensor, { ...bands, nearest, method: byNearest ? "nearest" : "bands" }, all);
      });
    await fc.assert(
      fc.asyncProperty(fc.array(one, { minLength: 16, maxLength: 16 }), (cases) =>
        expectSame(numbered(cases), { ...document, targets: few }),
      ),
      { numRuns: 3, endOnFailure: true },
    );
  });

  it("takes every name as a text on one line, whatever is in it", async () => {
    const hostile = fc.oneof(
      fc.string({ unit: "binary", maxLength: 80 }),
      fc
        .array(
          fc.constantFrom(
            "\n",
            "\r",
            "\u2028",
            "\u0085",
            "\0",
            "\u202e",
            '"""',
            "*/",
            "/*",
            "//",
            "??/",
            "\\",
            "'",
            "{",
            "#",
            "\nimport os",
            "x".repeat(80),
          ),
          { minLength: 1, maxLength: 6 },
        )
        .map((parts) => parts.join("")),
    );
    const raw = everyRaw(["r", "g", "b"], 3);
    await fc.assert(
      fc.asyncProperty(fc.array(hostile, { minLength: 24, maxLength: 24 }), (names) => {
        const own = (i: number) => names[i % names.length];
        const cases = numbered(
          [0, 1, 2, 3, 4, 5].map((i) =>
            caseOf({ ...document.sensors[0], name: own(i) }, { ...document.ruleSets[0], name: own(i + 6) }, raw),
          ),
        );
        const targets = document.targets.map((t, i) => ({ ...t, name: own(i + 12) }));
        return expectSame(cases, { ...document, name: own(23), targets });
      }),
      { numRuns: 4, endOnFailure: true },
    );
  });

  it("is written for one sensor at least", () => {
    expect(() => writeRules(LANGUAGES[0], document, [])).toThrow("one sensor at least");
  });
});
