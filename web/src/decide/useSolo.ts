import type { RuleId } from "@perceptum/core/names";
import { useCallback } from "react";
import { useStore } from "react-redux";
import { currentRuleSet, useEdit } from "../hooks/project";
import type { AppState } from "../model/store/store";
import { soloBegan } from "../model/store/view";

/** Switches all rules but one off; done again with the same rule, those come back that were on before. */
export function useSolo(): (rule: RuleId) => void {
  const edit = useEdit();
  // Asked for when it is wanted, so that a drag renders nothing anew that only could do it.
  const store = useStore<AppState>();
  return useCallback(
    (rule) => {
      const state = store.getState();
      const ruleSet = currentRuleSet(state);
      if (ruleSet === undefined) return;
      const { id, rules } = ruleSet;
      const before = state.view.beforeSolo;
      const alone = rules.every((r) => r.on === (r.id === rule));
      const known = before?.ruleSet === id ? before.on : null;
      const lit = rules.filter((r) => r.on).map((r) => r.id);
      if (!alone && (known === null || lit.length > 1)) store.dispatch(soloBegan({ ruleSet: id, on: lit }));
      const on = (r: RuleId) => (alone ? (known?.includes(r) ?? true) : r === rule);
      edit("switchRules", {
        ruleSet: id,
        on: rules.map((r) => r.id).filter(on),
        ...(!alone && { alone: rule }),
      });
    },
    [edit, store],
  );
}
