import fc from "fast-check";
import { expect, it } from "vitest";
import { numbered } from "../names";
import { arbitraryTest } from "../rules/arbitrary";
import { parseRuleText, printRuleText } from ".";

const read = (text: string) => {
  const parsed = parseRuleText(text);
  if ("problem" in parsed) throw new Error(parsed.problem.message);
  return parsed.value;
};

it("reads bands, clauses and not", () => {
  expect(read("hue 354..20 and sat >= 56 %")).toEqual(
    numbered("clause", [
      {
        all: [
          { feature: "hue", from: 354, to: 20 },
          { feature: "sat", from: 0.56 },
        ],
      },
    ]),
  );
  expect(read("val <= 20 % or not light 10..20 and chroma >= 5")).toEqual(
    numbered("clause", [
      { all: [{ feature: "val", to: 0.2 }] },
      {
        all: [
          { feature: "light", from: 10, to: 20, not: true },
          { feature: "chroma", from: 5 },
        ],
      },
    ]),
  );
});

it("gives back what it printed", () => {
  const round = (x: number | undefined) => (x === undefined ? undefined : Math.round(x * 100) / 100);
  const bounded = arbitraryTest
    .filter((t) => t.from !== undefined || t.to !== undefined)
    .map(({ feature, from, to, not }) => ({
      feature,
      ...(from !== undefined && { from: round(from) }),
      ...(to !== undefined && { to: round(to) }),
      ...(not && { not }),
    }));
  fc.assert(
    fc.property(
      fc.array(fc.array(bounded, { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 3 }),
      (clauses) => {
        const any = numbered(
          "clause",
          clauses.map((all) => ({ all })),
        );
        expect(read(printRuleText(any))).toEqual(any);
      },
    ),
  );
});

it.each([
  ["hue 10", 7, /\.\./],
  ["sat > 50 %", 11, /ends/],
  ["coral", 1, /target/],
  ["hue 10..20 and", 15, /./],
  ["sat 60..40 %", 11, /above its end/],
  ["(hue 1..2 or sat >= 5 %) and val >= 1 %", 40, /joined/],
])("%s is refused with its column", (text, column, message) => {
  const parsed = parseRuleText(text);
  expect(parsed).toMatchObject({ problem: { message: expect.stringMatching(message) } });
  if ("problem" in parsed) expect(Math.abs(parsed.problem.column - column)).toBeLessThanOrEqual(3);
});
