import { describe, expect, it } from "vitest";
import { didSpans, namesOf, parseStep, parseTrigger, rehearse, type Step, type Trigger } from "./behaviour";
import { parseCondition } from "./behaviour/conditions";
import { glasshouseRound } from "./demo";
import { findAll } from "./findings";
import { type LightId, numbered, type ResponseId } from "./names";
import { parsePhrase } from "./phrases";
import { readProject, splitProject } from "./project";
import { markedTapes } from "./teaching";
import { programOf, run, summarise } from "./world";

const { document, readings } = splitProject(glasshouseRound());
const names = namesOf(document);
const value = <T>(parsed: { value: T } | { problem: { message: string } }): T => {
  if ("problem" in parsed) throw new Error(parsed.problem.message);
  return parsed.value;
};

/** The demo with one response that does a routine of instant steps. */
function withRoutine(when: string, count: number, times = 1) {
  const step = value(parseStep("count tally + 1", names));
  const [mode] = document.behaviour.modes;
  const does: Step = { step: "do", routine: "long", ...(times > 1 && { times }) };
  return {
    ...document,
    behaviour: {
      ...document.behaviour,
      start: mode.id,
      routines: [
        {
          id: "long",
          name: "Long",
          steps: numbered(
            "step",
            Array.from({ length: count }, () => step),
          ),
        },
      ],
      modes: [
        {
          ...mode,
          entering: [],
          responses: [
            {
              id: "all" as ResponseId,
              when: value(parseTrigger(when, names)) as Trigger,
              steps: numbered("step", [does]),
              fires: "while present" as const,
              busy: "let it finish" as const,
              on: true,
            },
          ],
        },
      ],
    },
  };
}

describe("a routine of a thousand instant steps", () => {
  it("at every reading is cut off with a sentence, on a tape and in a run", () => {
    const project = withRoutine("holds val >= 0 %", 1000);
    const notes = rehearse(programOf(project), 0, [...readings.values()][0], 400);
    expect(notes.length).toBeLessThan(60_000);
    expect(notes.at(-1)).toMatchObject({ kind: "trouble", text: expect.stringContaining("50000 things happen") });
    expect(didSpans(notes, 1000).length).toBeGreaterThan(10);
    const trace = run(project, { course: "aisle", seed: 1 });
    expect(trace.notes.at(-1)).toMatchObject({ kind: "trouble", text: expect.stringContaining("the run was ended") });
  });

  it("that is done six hundred times is no circle", () => {
    const project = withRoutine("coral arrives", 1, 600);
    const trace = run({ ...project, behaviour: { ...project.behaviour } }, { course: "aisle", seed: 1, limitMs: 1000 });
    expect(trace.notes.filter((note) => note.kind === "trouble")).toEqual([]);
    const notes = rehearse(programOf(project), 0, [...readings.values()][0], 400);
    expect(notes.filter((note) => note.kind === "trouble")).toEqual([]);
    expect(notes.filter((note) => note.kind === "counter").length % 600).toBe(0);
  });
});

describe("what is nested deeply", () => {
  it.each([
    [`${"not ".repeat(900)}coral`],
    [`${"(".repeat(1900)}coral${")".repeat(1900)}`],
    [`${"not (".repeat(700)}coral`],
  ])("ends in a sentence in a phrase: %.20s…", (phrase) => {
    const parsed = parsePhrase(phrase, names, parseCondition);
    expect(parsed).toMatchObject({ problem: { message: expect.stringContaining("at most 20 levels") } });
  });

  it("ends in a sentence with its place in a file", () => {
    let guard: object = { seen: ["coral"] };
    for (let i = 0; i < 5000; i++) guard = { not: guard };
    const text = JSON.stringify({ format: "perceptum-project", version: 1, guard: "here" }).replace(
      '"here"',
      () => `${'{"not":'.repeat(5000)}{"seen":["coral"]}${"}".repeat(5000)}`,
    );
    expect(readProject(text)).toEqual({
      problem: { message: "this is nested more than 100 levels deep", place: "guard.not.not.not.not.not" },
    });
  });

  it("and cut off, or full of escapes, ends with its line and column", () => {
    const column = `[${Array.from({ length: 400_000 }, (_, i) => i).join(",")}`;
    expect(readProject(`{"format":"perceptum-project",\n"t":${column}`)).toMatchObject({
      problem: { message: expect.stringContaining("cut off"), place: `line 2, column ${column.length + 5}` },
    });
    expect(readProject(`{"a":"${"\\n".repeat(1_000_000)}`)).toMatchObject({
      problem: { message: expect.stringContaining("cut off"), place: "line 1, column 6" },
    });
  });
});

describe("findings and sweeps", () => {
  it("of 200,000 red readings are found, not lost", () => {
    const count = 200_000;
    const [tape] = document.tapes;
    const red = document.targets[0].id;
    // Red to both sides of 0°, by turns.
    const raw = {
      t: Float64Array.from({ length: count }, (_, i) => i * 20),
      channels: {
        r: new Float64Array(count).fill(900),
        g: Float64Array.from({ length: count }, (_, i) => (i % 3 === 0 ? 120 : 60)),
        b: Float64Array.from({ length: count }, (_, i) => (i % 3 === 0 ? 60 : 120)),
      },
    };
    const project = {
      ...document,
      tapes: [
        { ...tape, marks: numbered("mark", [{ from: 0, to: count * 20, target: red, light: "overcast" as LightId }]) },
      ],
      ruleSets: document.ruleSets.map((set) => ({
        ...set,
        rules: set.rules.map((rule) =>
          rule.target === red
            ? { ...rule, any: numbered("clause", [{ all: [{ feature: "hue" as const, from: 0, to: 40 }] }]) }
            : rule,
        ),
      })),
    };
    const found = findAll({ project, tapes: markedTapes(project, new Map([[tape.id, raw]])) });
    expect(found.map((f) => f.code)).toContain("red-not-wrapped");
  });

  it("of 20,000 points are summed up in time that grows with the points alone", () => {
    const cellsOf = (n: number) =>
      Array.from({ length: n }, (_, i) => ({
        conditions: { start: "Gate", light: "noon" as LightId, speed: 1, height: 0, noise: i },
        runs: [{ seed: 1, failed: i % 2 === 0 ? [0] : [] }],
      }));
    const time = (n: number) => {
      const cells = cellsOf(n);
      const start = performance.now();
      const { all } = summarise(cells, 1);
      expect(all).toMatchObject({ passed: n / 2, runs: n });
      return performance.now() - start;
    };
    time(2000);
    // In turns: what else the machine does falls on both.
    let [few, many] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
    for (let round = 0; round < 5; round++) {
      few = Math.min(few, time(2000));
      many = Math.min(many, time(20_000));
    }
    // Ten times the points: a hundred times the time would be quadratic.
    expect(many / few).toBeLessThan(50);
  });
});
