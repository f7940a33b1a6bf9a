import { numbered, type Unlisted } from "../names";
import { NO_NAMES, type PhraseProblem, type PhraseReader, parsePhrase } from "../phrases";
import type { Clause, Rule, Test } from "../rules";
import { type Condition, parseCondition, printCondition } from "./conditions";

/**
 * Reads the compact form of a rule's tests, in the words of conditions: `hue 354..20 and sat >= 56 %`, clauses joined
 * by `or`, `not` before a single test. Ends are part of a band, so `>` and `<` are refused.
 */
export function parseRuleText(text: string): { value: Rule["any"] } | { problem: PhraseProblem } {
  return parsePhrase(text, NO_NAMES, (reader) => {
    const condition = parseCondition(reader);
    const clauses = "any" in condition ? condition.any : [condition];
    return numbered(
      "clause",
      clauses.map((clause) => ({
        all: ("all" in clause ? clause.all : [clause]).map((term) => testOf(term, reader)),
      })),
    );
  });
}

function testOf(condition: Condition, reader: PhraseReader, not = false): Test {
  if ("not" in condition && !not) return testOf(condition.not, reader, true);
  if (!("feature" in condition) || condition.sensor !== undefined)
    return reader.fail("tests of features joined by and, and clauses joined by or");
  const { feature, from, to, open } = condition;
  if (open) return reader.fail("a band with its ends, written >= or <=");
  return { feature, ...(from !== undefined && { from }), ...(to !== undefined && { to }), ...(not && { not }) };
}

/** The compact form; `parseRuleText` gives back equal tests. An unbounded test asks only that the feature is known. */
export function printRuleText(any: readonly Unlisted<Clause>[]): string {
  return any
    .map(({ all }) =>
      all
        .map(({ feature, from, to, not }) => {
          const bounds = from === undefined && to === undefined ? { from: 0 } : { from, to };
          const written = printCondition({ feature, ...bounds } as Condition);
          return not ? `not ${written}` : written;
        })
        .join(" and "),
    )
    .filter((clause) => clause !== "")
    .join(" or ");
}
