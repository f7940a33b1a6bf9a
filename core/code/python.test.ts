import { spawnSync } from "node:child_process";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nextFloat } from "../arithmetic";
import { glasshouseRound } from "../demo";
import type { RuleId } from "../names";
import { type ProjectDocument, splitProject } from "../project";
import {
  type Channel,
  type RawReadings,
  REPORT_KINDS,
  REPORTS,
  ReadingBlock,
  type Sensor,
  WIRE_ORDERS,
} from "../readings";
import { classifyBlock, type RuleSet, ruleSetOf, steadyBlock } from "../rules";
import { arbitraryReferences, arbitraryRuleSet, SMALL_SENSOR, SOME_TARGETS } from "../rules/arbitrary";
import { writePython } from "./python";

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
  const python = inPython(writePython(project, [sensor]), raw);
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
        fc.constantFrom(...WIRE_ORDERS.map(({ id }) => id)),
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

  it("takes every name as a text on one line, whatever is in it", () => {
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
            '"""',
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
    const few = { ...everyRaw(["r", "g", "b"], 3) };
    fc.assert(
      fc.property(hostile, hostile, hostile, hostile, (project, ruleSet, sensor, target) => {
        expectSame(
          {
            ...document,
            name: project,
            targets: document.targets.map((t) => ({ ...t, name: target })),
            sensors: [{ ...document.sensors[0], name: sensor }],
            ruleSets: document.ruleSets.map((set) => ({ ...set, name: ruleSet })),
          },
          few,
        );
      }),
      { numRuns: 60 },
    );
  });

  it("has a function and a steadying of its own for each of several sensors", () => {
    const [belly] = document.sensors;
    const { reference: _, order: __, ...bare } = belly;
    const hue: Sensor = {
      ...bare,
      id: "left-eye" as Sensor["id"],
      name: "Left eye",
      reports: "hue",
      scale: { hue: [0, 359] },
      ruleSet: "by-hue" as Sensor["ruleSet"],
    };
    const set: RuleSet = {
      ...document.ruleSets[0],
      id: hue.ruleSet,
      name: "By hue",
      method: "nearest",
      nearest: { references: [{ target: document.targets[0].id, hue: 10 }], reject: 0.2 },
      steady: { hits: 1, of: 1, release: 1, rejoinMs: 0 },
    };
    const project = { ...document, sensors: [belly, hue], ruleSets: [...document.ruleSets, set] };
    const source = writePython(project, project.sensors);
    const rows = [0, 12, 200, 359];
    const { stdout, stderr } = spawnSync(
      "python3",
      [
        "-c",
        `${source}
import json
belly, eye = SteadyBelly(), SteadyLeftEye()
print(json.dumps([[classify_left_eye(h), eye.take(classify_left_eye(h), 0)[0], classify_belly(700, 100, 100)] for h in ${JSON.stringify(rows)}]))`,
      ],
      { encoding: "utf8" },
    );
    expect(stderr).toBe("");
    const block = (sensor: Sensor, channels: Partial<Record<Channel, number[]>>, n: number) =>
      new ReadingBlock(
        {
          t: Float64Array.from({ length: n }, (_v, i) => i),
          channels: Object.fromEntries(Object.entries(channels).map(([k, v]) => [k, Float64Array.from(v)])),
        },
        sensor,
      );
    const ids = project.targets.map((t) => t.id);
    const names = (labels: Uint8Array) => Array.from(labels, (l) => (l === 0 ? "unknown" : ids[l - 1]));
    const byHue = names(classifyBlock(set, block(hue, { hue: rows }, 4), ids));
    const [byBelly] = names(
      classifyBlock(document.ruleSets[0], block(belly, { r: [700], g: [100], b: [100] }, 1), ids),
    );
    expect(new Set(byHue).size).toBe(2);
    expect(JSON.parse(stdout)).toEqual(byHue.map((label) => [label, label, byBelly]));
  });
});
