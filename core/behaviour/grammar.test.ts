import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { completions, type Names, type PhraseProblem, type PhraseReader, parsePhrase } from "../phrases";
import {
  type Condition,
  ConditionSchema,
  parseCondition,
  parseStep,
  parseStepFrom,
  parseTrigger,
  parseTriggerFrom,
  printCondition,
  printStep,
  printTrigger,
  Step,
  Trigger,
} from ".";

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

/** One kind of phrase: how it is read, printed and kept. */
interface Kind<T> {
  read(text: string): { value: T } | { problem: PhraseProblem };
  from(reader: PhraseReader): T;
  print(value: T): string;
  keep(value: T): unknown;
}
const KINDS: { [what: string]: Kind<never> } = {
  condition: {
    read: (text: string) => parsePhrase(text, NAMES, parseCondition),
    from: parseCondition,
    print: printCondition,
    keep: (value: Condition) => ConditionSchema.parse(value),
  } as Kind<Condition> as unknown as Kind<never>,
  step: {
    read: (text: string) => parseStep(text, NAMES),
    from: parseStepFrom,
    print: printStep,
    keep: (value: Step) => Step.parse(value),
  } as Kind<Step> as unknown as Kind<never>,
  trigger: {
    read: (text: string) => parseTrigger(text, NAMES),
    from: parseTriggerFrom,
    print: printTrigger,
    keep: (value: Trigger) => Trigger.parse(value),
  } as Kind<Trigger> as unknown as Kind<never>,
};

/**
 * A phrase made by the grammar itself: at each place one of the words that could stand there, or what else does not
 * fail there, until it is whole. `choices` says which; undefined where that comes to no end.
 */
function grown<T>({ read, from }: Kind<T>, choices: readonly number[]): string | undefined {
  let text = "";
  for (const [i, choice] of choices.entries()) {
    // Towards the end nothing new is opened.
    const closing = i > choices.length / 2;
    if ("value" in read(text) && (closing || choice % 4 === 0)) return text;
    const next = [...new Set([...completions(`${text} `, NAMES, from), ...FREE])]
      .filter((word) => !closing || !GOES_ON.has(word))
      .map((word) => `${text} ${word}`.trim())
      .filter((longer) => {
        const parsed = read(longer);
        return "value" in parsed || parsed.problem.column > longer.length;
      });
    if (next.length === 0) return undefined;
    text = next[choice % next.length];
  }
  return "value" in read(text) ? text : undefined;
}

describe("whatever the grammar makes", () => {
  it.each(Object.keys(KINDS))("of %s is kept by the schema, printed, and read as the same", (what) => {
    const kind = KINDS[what];
    const seen = new Set<string>();
    fc.assert(
      fc.property(fc.noBias(fc.array(fc.nat(1000), { minLength: 20, maxLength: 20 })), (choices) => {
        const text = grown(kind, choices);
        if (text === undefined) return;
        const parsed = kind.read(text);
        if (!("value" in parsed)) throw new Error("unreachable");
        const { value } = parsed;
        expect(kind.keep(value)).toEqual(value);
        const printed = kind.print(value);
        expect({ text, printed, ...kind.read(printed) }).toEqual({ text, printed, value });
        seen.add(printed);
      }),
      { numRuns: 120 },
    );
    expect(seen.size).toBeGreaterThan(20);
  });
});
