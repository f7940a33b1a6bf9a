import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type * as z from "zod";
import { completions, type Names, type PhraseReader, parsePhrase } from "../phrases";
import {
  ConditionSchema,
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
};

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
function grown(from: (reader: PhraseReader) => unknown, choices: readonly number[]): string | undefined {
  const problemOf = (text: string) => {
    const parsed = parsePhrase(text, NAMES, from);
    return "problem" in parsed ? parsed.problem : undefined;
  };
  let text = "";
  for (const [i, choice] of choices.entries()) {
    // Towards the end nothing new is opened.
    const closing = i > choices.length / 2;
    if (problemOf(text) === undefined && (closing || choice % 4 === 0)) return text;
    const next = [...new Set([...completions(`${text} `, NAMES, from), ...FREE])]
      .filter((word) => !closing || !GOES_ON.has(word))
      .map((word) => `${text} ${word}`.trim())
      .filter((longer) => (problemOf(longer)?.column ?? Number.POSITIVE_INFINITY) > longer.length);
    if (next.length === 0) return undefined;
    text = next[choice % next.length];
  }
  return problemOf(text) === undefined ? text : undefined;
}

/** Holds whatever phrases `from` can be made to read against the schema and against what is printed of them. */
function holdsAll<T>(from: (reader: PhraseReader) => T, print: (value: T) => string, schema: z.ZodType<T>): void {
  const read = (text: string) => must(parsePhrase(text, NAMES, from));
  const printed = new Set<string>();
  fc.assert(
    fc.property(fc.noBias(fc.array(fc.nat(1000), { minLength: 20, maxLength: 20 })), (choices) => {
      const text = grown(from, choices);
      if (text === undefined) return;
      const value = read(text);
      expect(schema.parse(value)).toEqual(value);
      expect({ text, value: read(print(value)) }).toEqual({ text, value });
      printed.add(print(value));
    }),
    { numRuns: 120 },
  );
  expect(printed.size).toBeGreaterThan(20);
}

describe("whatever the grammar makes is kept by the schema, printed, and read as the same", () => {
  it("as a condition", () => holdsAll(parseCondition, printCondition, ConditionSchema));
  it("as a step", () => holdsAll(parseStepFrom, printStep, Step));
  it("as a trigger", () => holdsAll(parseTriggerFrom, printTrigger, Trigger));
});
