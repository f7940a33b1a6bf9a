import type { Rule, RuleSet, Test } from "../project/schema";

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
    any: rule.any.map((c, i) => (i === clause ? { all: c.all.map((t, j) => (j === test ? change(t) : t)) } : c)),
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
