import type { Rule, RuleSet, Test } from "./ruleSetSchema";

/** One bound of one test of one clause. */
export interface BoundPlace {
  rule: string;
  clause: number;
  test: number;
  end: "from" | "to";
}

/** The rule set with one rule replaced by what `change` makes of it. */
export function withRule(ruleSet: RuleSet, rule: string, change: (rule: Rule) => Rule): RuleSet {
  return { ...ruleSet, rules: ruleSet.rules.map((r) => (r.id === rule ? change(r) : r)) };
}

/** The rule with one test replaced. */
export function withTest(rule: Rule, clause: number, test: number, change: (test: Test) => Test): Rule {
  return {
    ...rule,
    any: rule.any.map((c, i) => (i === clause ? { ...c, all: c.all.map((t, j) => (j === test ? change(t) : t)) } : c)),
  };
}

/** The rule set with one bound moved to `value`, or opened where it is undefined. */
export function setBound(
  ruleSet: RuleSet,
  { rule, clause, test, end }: BoundPlace,
  value: number | undefined,
): RuleSet {
  return withRule(ruleSet, rule, (r) =>
    withTest(r, clause, test, (t) => {
      const { [end]: _, ...rest } = t;
      return value === undefined ? rest : { ...rest, [end]: value };
    }),
  );
}

/**
 * The rule set with one end of a clause's band for a feature moved. Where the clause does not test the feature yet,
 * a test is added; a test that is left without any end is dropped.
 */
export function setFeatureBound(
  ruleSet: RuleSet,
  rule: string,
  clause: number,
  feature: Test["feature"],
  end: "from" | "to",
  value: number | undefined,
): RuleSet {
  return withRule(ruleSet, rule, (r) => ({
    ...r,
    any: r.any.map((c, i) => {
      if (i !== clause) return c;
      const at = bandOf(c.all, feature);
      if (at < 0) return value === undefined ? c : { ...c, all: [...c.all, { feature, [end]: value }] };
      const { [end]: _, ...rest } = c.all[at];
      const test: Test = value === undefined ? rest : { ...rest, [end]: value };
      const open = test.from === undefined && test.to === undefined;
      return { ...c, all: c.all.flatMap((t, j) => (j !== at ? [t] : open ? [] : [test])) };
    }),
  }));
}

/** Where a clause's band for a feature stands among its tests; −1 where there is none. */
export function bandOf(tests: readonly Test[], feature: Test["feature"]): number {
  return tests.findIndex((t) => t.feature === feature && !t.not);
}
