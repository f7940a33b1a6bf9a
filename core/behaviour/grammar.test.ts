import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type * as z from "zod";
import { completions, type Names, named, type PhraseReader, parsePhrase } from "../phrases";
import {
  ConditionSchema,
  type NameVisitor,
  namedCondition,
  namedStep,
  namedTrigger,
  parseCondition,
  parseStepFrom,
  parseTriggerFrom,
  printCondition,
  printStep,
  printTrigger,
  Step,
  Trigger,
} from ".";
import { must } from "./arbitrary";

/** Names that are nearly words, units or notes of the grammar: those themselves are kept from being names. */
const NAMES: Names = {
  targets: ["coral", "left-1", "is", "arrives", "present", "c4", "cm"],
  sensors: ["belly", "s", "camera-1"],
  modes: ["patrol", "finish-1"],
  lamps: ["brow", "lamp"],
  counters: ["tally", "hz", "known"],
  lists: ["route", "jot"],
  routines: ["bow", "stop", "do"],
  buttons: ["go", "start"],
  servos: ["arm", "rev"],
  gates: ["flap", "open"],
  crates: ["box-1", "holds"],
};

/** The same things as people see them: names with spaces, in any case, with letters that no phrase has, nested. */
const SEEN_AS: Record<string, string> = {
  coral: "Coral",
  "left-1": "Left bed",
  is: "Is",
  arrives: "Coral tag",
  present: "Bed 2 (north)",
  c4: "Bed 2",
  cm: "Café & Co.",
  belly: "Belly",
  s: "Left eye",
  "camera-1": "Left eye 2",
  patrol: "In the bay",
  "finish-1": "In the bay 2",
  bow: "Water it",
  stop: "Stop and go",
  do: "Do",
};
const SHOWN = Object.fromEntries(
  Object.entries(NAMES).map(([kind, ids]) => [kind, (ids as string[]).map((id) => named(id, SEEN_AS[id] ?? id))]),
) as unknown as Names;

/** What the grammar takes beside words: numbers, texts, colours, notes, signs. */
const FREE = [
  ...["0", "1", "3", "2.5", "-4", "50", "400", '"two words"', '""', "#ff8800", "C4", "Bb3"],
  ...["%", "+", "-", "..", ">=", "<=", ">", "<", "=", "(", ")", ":", ","],
];

const GOES_ON = new Set(["(", "not", "and", "or", "until"]);

/**
 * A phrase made by the grammar itself: at each place one of the words that could stand there, or what else does not
 * fail there, until it is whole. `choices` says which; undefined where that comes to no end.
 */
function grown(from: (reader: PhraseReader) => unknown, choices: readonly number[], names: Names): string | undefined {
  const problemOf = (text: string) => {
    const parsed = parsePhrase(text, names, from);
    return "problem" in parsed ? parsed.problem : undefined;
  };
  let text = "";
  for (const [i, choice] of choices.entries()) {
    // Towards the end nothing new is opened.
    const closing = i > choices.length / 2;
    if (problemOf(text) === undefined && (closing || choice % 4 === 0)) return text;
    const words = [
      ...new Set([...completions(text === "" ? "" : `${text} `, names, from).map(({ word }) => word), ...FREE]),
    ].filter((word) => !closing || !GOES_ON.has(word));
    // The first of them, from the chosen one on, that does not fail here.
    const first = choice % words.length;
    const next = [...words.slice(first), ...words.slice(0, first)]
      .map((word) => `${text} ${word}`.trim())
      .find((longer) => (problemOf(longer)?.column ?? Number.POSITIVE_INFINITY) > longer.length);
    if (next === undefined) return undefined;
    text = next;
  }
  return problemOf(text) === undefined ? text : undefined;
}

/** Holds whatever phrases `from` can be made to read against the schema and against what is printed of them. */
function holdsAll<T>(
  from: (reader: PhraseReader) => T,
  print: (value: T) => string,
  schema: z.ZodType<T>,
  names = NAMES,
): void {
  const read = (text: string) => must(parsePhrase(text, names, from));
  const printed = new Set<string>();
  fc.assert(
    fc.property(fc.noBias(fc.array(fc.nat(1000), { minLength: 20, maxLength: 20 })), (choices) => {
      const text = grown(from, choices, names);
      if (text === undefined) return;
      const value = read(text);
      expect(schema.parse(value)).toEqual(value);
      expect({ text, value: read(print(value)) }).toEqual({ text, value });
      printed.add(print(value));
    }),
    // Few of the shorter ones are whole: of 120, once in a while no more than twenty.
    { numRuns: 200 },
  );
  expect(printed.size).toBeGreaterThan(20);
}

describe("whatever the grammar makes is kept by the schema, printed, and read as the same", () => {
  it("as a condition", () => holdsAll(parseCondition, printCondition, ConditionSchema));
  it("as a step", () => holdsAll(parseStepFrom, printStep, Step));
  it("as a trigger", () => holdsAll(parseTriggerFrom, printTrigger, Trigger));
});

describe("the same with names as people see them", () => {
  const show: NameVisitor = (_, id) => (SEEN_AS[id] ?? id) as typeof id;
  it("as a condition", () =>
    holdsAll(parseCondition, (c) => printCondition(namedCondition(c, show)), ConditionSchema, SHOWN));
  it("as a step", () => holdsAll(parseStepFrom, (s) => printStep(namedStep(s, show)), Step, SHOWN));
  it("as a trigger", () => holdsAll(parseTriggerFrom, (t) => printTrigger(namedTrigger(t, show)), Trigger, SHOWN));
});
