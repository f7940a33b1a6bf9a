import type { ClauseId, RuleId } from "../names";
import type { Clause, Rule, RuleSet, Test } from "./ruleSetSchema";

/** A test of one clause, by what it tests and whether it is turned round; of several alike the `nth`, from 0. */
export interface TestPlace {
  rule: RuleId;
  clause: ClauseId;
  feature: Test["feature"];
  not?: boolean | undefined;
  nth?: number | undefined;
}

/** One end of it. */
export interface BoundPlace extends TestPlace {
  end: "from" | "to";
}

/** The rule set with one rule replaced by what `change` makes of it. */
export function withRule(ruleSet: RuleSet, rule: string, change: (rule: Rule) => Rule): RuleSet {
  return { ...ruleSet, rules: ruleSet.rules.map((r) => (r.id === rule ? change(r) : r)) };
}

/** The rule set with one clause of a rule replaced. */
const withClause = (ruleSet: RuleSet, rule: string, clause: ClauseId, change: (clause: Clause) => Clause): RuleSet =>
  withRule(ruleSet, rule, (r) => ({ ...r, any: r.any.map((c) => (c.id === clause ? change(c) : c)) }));

/** Where a test stands among those of a clause; −1 where it is not there. */
function placeIn(
  tests: readonly Test[],
  { feature, not = false, nth = 0 }: Omit<TestPlace, "rule" | "clause">,
): number {
  let left = nth;
  return tests.findIndex((t) => t.feature === feature && (t.not ?? false) === not && left-- === 0);
}

/** The fields that tell a test of a clause from its others. */
export function placeOfTest(tests: readonly Test[], at: number): Pick<TestPlace, "feature" | "not" | "nth"> {
  const { feature, not } = tests[at];
  const nth = tests.slice(0, at).filter((t) => t.feature === feature && (t.not ?? false) === (not ?? false)).length;
  return { feature, ...(not && { not }), ...(nth > 0 && { nth }) };
}

/** Where a clause's band for a feature stands among its tests; −1 where there is none. */
export const bandOf = (tests: readonly Test[], feature: Test["feature"]): number => placeIn(tests, { feature });

/** The test at a place; undefined where there is none. */
export function testAt({ rules }: RuleSet, place: TestPlace): Test | undefined {
  const clause = rules.find((r) => r.id === place.rule)?.any.find((c) => c.id === place.clause);
  return clause?.all[placeIn(clause.all, place)];
}

/**
 * The rule set with one bound moved to `value`, or opened where that is undefined. Where the clause has no such test
 * yet, one is added. `goes`: a test that is left without any end is dropped.
 */
export function setBound(
  ruleSet: RuleSet,
  { end, ...place }: BoundPlace,
  value: number | undefined,
  goes = false,
): RuleSet {
  const { rule, clause, feature, not } = place;
  return withClause(ruleSet, rule, clause, (c) => {
    const at = placeIn(c.all, place);
    if (at < 0)
      return value === undefined ? c : { ...c, all: [...c.all, { feature, [end]: value, ...(not && { not }) }] };
    const { [end]: _, ...rest } = c.all[at];
    const test: Test = value === undefined ? rest : { ...rest, [end]: value };
    const isOpen = test.from === undefined && test.to === undefined;
    return { ...c, all: goes && isOpen ? c.all.toSpliced(at, 1) : c.all.with(at, test) };
  });
}

/** The rule set without one test. */
export const withoutTest = (ruleSet: RuleSet, place: TestPlace): RuleSet =>
  withClause(ruleSet, place.rule, place.clause, (c) => {
    const at = placeIn(c.all, place);
    return at < 0 ? c : { ...c, all: c.all.toSpliced(at, 1) };
  });
