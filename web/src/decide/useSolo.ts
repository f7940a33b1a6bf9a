import type { RuleId } from "@perceptum/core/names";
import { useEditRules, useRuleSet } from "../session/project";
import { useAppDispatch, useAppSelector } from "../state/store";
import { soloBegan } from "../state/view";

/** Switches all rules but one off; done again with the same rule, those come back that were on before. */
export function useSolo(): (rule: RuleId) => void {
  const { id, rules } = useRuleSet();
  const before = useAppSelector((state) => state.view.beforeSolo);
  const edit = useEditRules();
  const dispatch = useAppDispatch();
  return (rule) => {
    const alone = rules.every((r) => r.on === (r.id === rule));
    const known = before?.ruleSet === id ? before.on : null;
    if (!alone && (known === null || rules.filter((r) => r.on).length > 1))
      dispatch(soloBegan({ ruleSet: id, on: rules.filter((r) => r.on).map((r) => r.id) }));
    const on = (r: RuleId) => (alone ? (known?.includes(r) ?? true) : r === rule);
    edit(alone ? "all back that were on" : "solo", (set) => ({
      ...set,
      rules: set.rules.map((r) => ({ ...r, on: on(r.id) })),
    }));
  };
}
