import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { zodProblem } from "../names";
import type { Input, Names } from "../phrases";
import { must, NAMES } from "./arbitrary";
import { inputValue } from "./given";
import { DoneRoutines, filledStep, parseInput, parseListedStep, withInputs } from "./routines";
import { Behaviour } from "./schema";
import { type ListedStep, parseStep, printStep } from "./steps";

const INPUTS: readonly Input[] = [
  { name: "pace", kind: "speed", value: "30 %" },
  { name: "span", kind: "time", value: "2 s" },
  { name: "way", kind: "length", value: "20 cm" },
  { name: "mark", kind: "target", value: "coral" },
  { name: "n", kind: "number", value: "3" },
  { name: "greeting", kind: "text", value: '"at the bay"' },
];
const names: Names = { ...NAMES, routines: ["water"], takes: { water: INPUTS } };

/** Phrases in which inputs stand for values, each with what it is where these have others. */
const TAKING = {
  "wait span": "wait 300 ms",
  "drive pace for way": "drive -50 % for 5 mm",
  "drive pace for span": "drive -50 % for 300 ms",
  "drive -30 % for way": "drive -30 % for 5 mm",
  "wheels pace 10 %": "wheels -50 % 10 %",
  "lamp brow mark": "lamp brow teal",
  "say greeting": 'say "hello"',
  "tone n for span": "tone 7 for 300 ms",
  "wait until belly: mark and not teal, at most span": "wait until belly: teal and not teal, at most 300 ms",
  "drive pace until left-eye: mark": "drive -50 % until left-eye: teal",
  "do water n times with span span, mark mark": "do water 7 times with span 300 ms, mark teal",
} as const;
const OTHERS = new Map([
  ["pace", "-50 %"],
  ["span", "300 ms"],
  ["way", "5 mm"],
  ["mark", "teal"],
  ["n", "7"],
  ["greeting", '"hello"'],
]);
const listed = (phrase: string): ListedStep =>
  ({ id: "step-1", ...must(parseListedStep(phrase, names, INPUTS)) }) as ListedStep;

describe("a step that takes what its routine takes", () => {
  it.each(Object.entries(TAKING))("is read, printed and filled: %s", (phrase, other) => {
    const step = listed(phrase);
    const { takes, id: _, ...plain } = step;
    // By itself it is the step with what it starts from.
    const starts = INPUTS.reduce(
      (text, { name, value }) => text.replaceAll(new RegExp(`\\b${name}\\b`, "g"), value),
      phrase,
    );
    if (!phrase.startsWith("do")) expect(plain).toEqual(must(parseStep(starts, names)));
    expect(withInputs(printStep(step), names, takes)).toBe(phrase);
    const filled = filledStep(step, OTHERS);
    expect("problem" in filled ? filled.problem : printStep(filled)).toBe(other);
  });

  it("is filled with what is drawn as if that had been written", () => {
    const value = fc.record({
      span: fc.integer({ min: 1, max: 9000 }).map((ms) => (ms % 2 ? `${ms} ms` : `${ms / 1000} s`)),
      pace: fc.integer({ min: -100, max: 100 }).map((share) => `${share} %`),
      way: fc.integer({ min: 1, max: 900 }).map((mm) => `${mm} mm`),
      mark: fc.constantFrom("coral", "teal", "chalk"),
      n: fc.integer({ min: 2, max: 900 }).map(String),
      greeting: fc.constantFrom('"a"', '"two words"', '""'),
    });
    const phrases = [
      "wait span",
      "drive pace for way",
      "lamp mark",
      "say greeting",
      "tone n for span",
      "wait until belly: mark, at most span",
    ];
    fc.assert(
      fc.property(value, fc.constantFrom(...phrases), (values, phrase) => {
        const written = Object.entries(values).reduce(
          (text, [name, own]) => text.replaceAll(new RegExp(`\\b${name}\\b`, "g"), own),
          phrase,
        );
        const wanted = parseStep(written, names);
        const filled = filledStep(listed(phrase), new Map(Object.entries(values)));
        if ("problem" in wanted) expect("problem" in filled).toBe(true);
        else expect(filled).toEqual({ ...wanted.value, id: "step-1" });
      }),
    );
  });

  it.each([
    ["wait pace", "s or ms is expected where “pace” stands, which is a speed", 6],
    ["drive span", "“%” is expected where “span” stands, which is a time", 7],
    ["do water with far 3 cm", "“pace”, a speed, or “span”, a time, or", 15],
    ["do water with span pace", "s or ms is expected where “pace” stands, which is a speed", 20],
    ["do water with span 2 s, span 3 s", "“pace”, a speed, or “way”, a length", 25],
  ])("says what cannot stand there: %s", (phrase, message, column) => {
    expect(parseListedStep(phrase, names, INPUTS)).toMatchObject({
      problem: { column, message: expect.stringContaining(message) },
    });
  });

  it("names nothing outside of a routine", () => {
    expect(parseListedStep("wait span", names)).toMatchObject({ problem: { column: 6 } });
  });
});

describe("what a routine takes", () => {
  it.each([
    ["span 2 s", "time"],
    ["span 250 ms", "time"],
    ["way 20 cm", "length"],
    ["way 0.25 m", "length"],
    ["pace -30 %", "speed"],
    ["n 3", "number"],
    ["mark coral", "target"],
    ['greeting "two words"', "text"],
  ])("has its kind by the value that it starts from: %s", (text, kind) => {
    const { name, ...input } = must(parseInput(text, names));
    expect({ ...input, name }).toEqual({ name: text.split(" ")[0], kind, value: text.slice(name.length + 1) });
    expect(inputValue(input.kind, input.value)).toEqual({ value: input.value });
  });

  it.each([
    ["until 2 s", "“until” cannot be its name"],
    ["span", "a target is expected where the phrase ends"],
    ["n 2.5", "a time, a length, a speed, a whole number, a target, a text is expected where “2.5” stands"],
    ["pace 120 %", "a speed from −100 to 100 % is expected where “120” stands"],
  ])("is refused with its place: %s", (text, message) => {
    expect(parseInput(text, names)).toMatchObject({ problem: { message: expect.stringContaining(message) } });
  });

  const behaviour = (enter: readonly string[], inputs: readonly Input[], steps: readonly string[]) => {
    const known = { ...names, takes: { water: inputs } };
    const of = (phrases: readonly string[], own: readonly Input[] = []) =>
      phrases.map((phrase, i) => ({ id: `step-${i + 1}`, ...must(parseListedStep(phrase, known, own)) }));
    return {
      start: "patrol",
      modes: [{ id: "patrol", name: "Patrol", entering: of(enter), responses: [] }],
      counters: [],
      routines: [{ id: "water", name: "Water", inputs, steps: of(steps, inputs) }],
    };
  };
  const [, span] = INPUTS;

  it("makes a routine of its own for each set of values that is given", () => {
    const read = Behaviour.parse(
      behaviour(
        ["do water", "do water with span 3 s", "do water with span 2 s", "do water with span 3 s"],
        [span],
        ["wait span"],
      ),
    );
    expect(new DoneRoutines(read).all.map(({ name, steps }) => [name, ...steps.map(printStep)])).toEqual([
      ["Water", "wait 2 s"],
      ["Water with span 3 s", "wait 3 s"],
    ]);
  });

  it("is held by the schema: what is taken and given is there, of its kind, and can be", () => {
    const good = behaviour(["do water with span 3 s"], [span], ["wait span"]);
    const problems = (change: (made: typeof good) => void) => {
      const made = structuredClone(good);
      change(made);
      const read = Behaviour.safeParse(made);
      return read.success ? [] : read.error.issues.map(({ message, path }) => `${path.join(".")}: ${message}`);
    };
    expect(problems(() => undefined)).toEqual([]);
    expect(
      problems(({ routines: [water] }) => void Object.assign(water, { inputs: [{ ...span, name: "rest" }] })),
    ).toEqual([
      "modes.0.entering.0: the routine water takes no time “span”",
      "routines.0.steps.0: nothing here takes “span”",
    ]);
    expect(problems(({ routines: [water] }) => void Object.assign(water, { inputs: [span, span] }))).toEqual([
      "routines.0.inputs.1.name: “span” is there twice",
    ]);
    expect(problems(({ modes: [{ entering }] }) => void Object.assign(entering[0], { takes: { 0: "span" } }))).toEqual([
      "modes.0.entering.0: nothing here takes “span”",
    ]);
    expect(
      problems(({ routines: [water] }) => void Object.assign(water, { inputs: [{ ...span, value: "soon" }] })),
    ).toEqual(["routines.0.inputs.0.value: a time is expected where “soon” stands"]);
    const made = structuredClone(good);
    Object.assign(made.modes[0].entering[0], { with: [{ input: "span", kind: "time", value: "2 h" }] });
    const read = Behaviour.safeParse(made);
    expect(read.success ? undefined : zodProblem(read.error)).toEqual({
      message: "s or ms is expected where “h” stands",
      place: "modes[0].entering[0].with[0].value",
    });
  });
});
