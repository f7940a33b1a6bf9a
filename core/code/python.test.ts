import { spawnSync } from "node:child_process";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nextFloat } from "../arithmetic";
import { glasshouseRound } from "../demo";
import type { RuleId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import { type Channel, type RawReadings, REPORT_KINDS, REPORTS, ReadingBlock, type Sensor } from "../readings";
import { classifyBlock, type RuleSet, ruleSetOf, steadyBlock } from "../rules";
import { arbitraryReferences, arbitraryRuleSet, SMALL_SENSOR, SOME_TARGETS } from "../rules/arbitrary";
import { writePython } from ".";

const { document, readings } = splitProject(glasshouseRound());

/** Runs the written module over readings, in a real python3; gives label and seen of each. */
function inPython(source: string, raw: RawReadings): { labels: string[]; seen: string[] } {
  const columns = Object.values(raw.channels);
  const rows = Array.from(raw.t, (t, i) => [t, ...columns.map((column) => column[i])]);
  const program = `${source}
import json, sys
steady = Steady()
out = []
for t, *values in json.load(sys.stdin):
    label = classify(*values)
    out.append([label, steady.take(label, t)[0]])
json.dump(out, sys.stdout)
`;
  const { stdout, stderr, status } = spawnSync("python3", ["-c", program], {
    input: JSON.stringify(rows),
    encoding: "utf8",
    maxBuffer: 1e8,
  });
  if (status !== 0) throw new Error(stderr);
  const out = JSON.parse(stdout) as [string, string][];
  return { labels: out.map((o) => o[0]), seen: out.map((o) => o[1]) };
}

function expectSame(project: ProjectDocument, raw: RawReadings): void {
  const [sensor] = project.sensors;
  const ruleSet = ruleSetOf(project, sensor);
  const targets = project.targets.map((t) => t.id);
  const labels = classifyBlock(ruleSet, new ReadingBlock(raw, sensor), targets);
  const name = (label: number) => (label === 0 ? "unknown" : targets[label - 1]);
  const python = inPython(writePython(project, sensor), raw);
  expect(python.labels).toEqual(Array.from(labels, name));
  expect(python.seen).toEqual(Array.from(steadyBlock(labels, ruleSet.steady), name));
}

/** Every combination of raw values 0..steps − 1 of these channels. */
function everyRaw(channels: readonly Channel[], steps: number): RawReadings {
  const n = steps ** channels.length;
  const column = (k: number) => Float64Array.from({ length: n }, (_, i) => Math.floor(i / steps ** k) % steps);
  return {
    t: Float64Array.from({ length: n }, (_, i) => i * 20),
    channels: Object.fromEntries(channels.map((channel, k) => [channel, column(k)])),
  };
}

describe("the Python module", { timeout: 60_000 }, () => {
  it.each(document.tapes.map((tape) => tape.name))(
    "gives the core's label and seen for every reading of %s",
    (name) => {
      const tape = document.tapes.find((t) => t.name === name);
      expectSame(document, readings.get(tape?.id as never) as RawReadings);
    },
  );

  it("gives the core's label for 10 000 readings at and around the bounds", () => {
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
    expect(
      new Set(
        classifyBlock(
          document.ruleSets[0],
          new ReadingBlock(raw, document.sensors[0]),
          document.targets.map((t) => t.id),
        ),
      ).size,
    ).toBeGreaterThan(2);
    expectSame(document, raw);
  });

  it("gives the core's label for any rules, bounds hit exactly, every feature and wire order", () => {
    const all = everyRaw(["r", "g", "b"], 13);
    const targets = document.targets.filter((t) => SOME_TARGETS.includes(t.id));
    fc.assert(
      fc.property(
        arbitraryRuleSet,
        fc.constantFrom("rgb", "bgr", "grb"),
        fc.boolean(),
        (ruleSet, order, calibrated) => {
          const { reference: _, ...bare } = document.sensors[0];
          const reference = calibrated
            ? {
                reference: {
                  dark: [0, 1, 2] as [number, number, number],
                  white: [11, 12, 10] as [number, number, number],
                },
              }
            : {};
          const sensor = { ...bare, ...SMALL_SENSOR, order, ...reference } as ProjectDocument["sensors"][number];
          expectSame({ ...document, targets, sensors: [sensor], ruleSets: [ruleSet] }, all);
        },
      ),
      { numRuns: 30 },
    );
  });

  it("works lightness and chroma out to the last bit: bands that are one reading's own value take it", () => {
    const all = everyRaw(["r", "g", "b"], 13);
    const { reference: _, ...bare } = document.sensors[0];
    const sensor = { ...bare, ...SMALL_SENSOR, order: "rgb" } as ProjectDocument["sensors"][number];
    const block = new ReadingBlock(all, sensor);
    const targets = document.targets.filter((t) => SOME_TARGETS.includes(t.id));
    for (const feature of ["light", "chroma"] as const) {
      const values = block.column(feature);
      const any = Array.from({ length: 60 }, (_v, k) => values[(k * 997) % values.length]).map((value) => ({
        all: [{ feature, from: value, to: value }],
      }));
      const ruleSet = {
        ...document.ruleSets[0],
        rules: [{ id: "points" as RuleId, target: targets[0].id, on: true, any }],
      };
      expect(classifyBlock(ruleSet, block, [targets[0].id]).filter((label) => label === 1).length).toBeGreaterThan(40);
      expectSame({ ...document, targets, sensors: [sensor], ruleSets: [ruleSet] }, all);
    }
  });

  it.each(REPORTS)("gives the core's label for any rules and references of a sensor that reports %s", (reports) => {
    const { channels, referenced } = REPORT_KINDS[reports];
    const all = everyRaw(channels, { 1: 400, 3: 11, 4: 6 }[channels.length] ?? 13);
    const targets = document.targets.filter((t) => SOME_TARGETS.includes(t.id));
    const span = reports === "hue" ? 360 : channels.length === 4 ? 5 : channels.length === 3 ? 10 : 400;
    fc.assert(
      fc.property(
        arbitraryRuleSet,
        arbitraryReferences,
        fc.boolean(),
        fc.boolean(),
        (bands, nearest, byNearest, white) => {
          const { reference: _, order: __, ...bare } = document.sensors[0];
          const sensor: Sensor = {
            ...bare,
            reports,
            scale: reports === "code" ? {} : Object.fromEntries(channels.map((c) => [c, [0, span]])),
            ...(reports === "code" && { codes: { 3: SOME_TARGETS[0], 12: SOME_TARGETS[2] } }),
            ...(white &&
              referenced && { reference: { dark: channels.map(() => 1), white: channels.map(() => span - 1) } }),
          };
          const ruleSet: RuleSet = { ...bands, nearest, method: byNearest ? "nearest" : "bands" };
          expectSame({ ...document, targets, sensors: [sensor], ruleSets: [ruleSet] }, all);
        },
      ),
      { numRuns: 8 },
    );
  });
});
