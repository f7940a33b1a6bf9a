import { freeId, numbered, type RuleId, type TargetId } from "@perceptum/core/names";
import { firstBands } from "@perceptum/core/teaching";
import { memo } from "react";
import { useTapesOf } from "../hooks/marked";
import { currentRuleSet, useEdit, useRuleSet, useRuleSetId, useRules, useSettledProject } from "../hooks/project";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { ruleChosen } from "../model/store/view";
import { Select } from "../ui/Select";

/** Adds a rule for a target that has none yet, with bands around its own marked readings. */
export function AddRule() {
  const ruled = useRuleSet()
    .rules.map((r) => r.target)
    .join(" ");
  return <AddRuleFor ruled={ruled} />;
}

const AddRuleFor = memo(function AddRuleFor({ ruled }: { ruled: string }) {
  const { targets } = useSettledProject();
  const tapes = useTapesOf(useAppSelector((state) => currentRuleSet(state)?.id));
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const rules = useRules();
  const dispatch = useAppDispatch();
  const taken = ruled.split(" ");
  const without = targets.filter((t) => !taken.includes(t.id)).map((t) => ({ id: t.id, text: t.name }));
  const add = (target: TargetId) => {
    const bands = firstBands(tapes, targets.findIndex((t) => t.id === target) + 1);
    const id = freeId<RuleId>(
      target,
      rules().map((r) => r.id),
    );
    const rule = { id, target, on: true, any: numbered("clause", [{ all: bands }]) };
    edit("addRule", { ruleSet, rule, before: null });
    dispatch(ruleChosen({ rule: id, target }));
  };
  if (without.length === 0) return null;
  return (
    <div style={{ marginTop: 6 }}>
      <Select
        label="Add a rule"
        hideLabel
        placeholder="Add a rule for …"
        value={null}
        options={without}
        onChange={add}
      />
    </div>
  );
});
