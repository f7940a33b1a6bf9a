import { parseRuleText, printRuleText } from "@perceptum/core/behaviour";
import { type ClauseId, freeId, nextId, type RuleId } from "@perceptum/core/names";
import { tellProblem } from "@perceptum/core/phrases";
import { FEATURE_FACTS, type Feature, REPORT_KINDS } from "@perceptum/core/readings";
import type { Rule } from "@perceptum/core/rules";
import { memo } from "react";
import styled from "styled-components";
import { useEdit, useRuleSetId, useRules, useSensor } from "../hooks/project";
import { useAppDispatch } from "../hooks/store";
import { ruleChosen } from "../model/store/view";
import { QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
import { Select } from "../ui/Select";
import { useSolo } from "./useSolo";

const Tools = styled.div`
  display: flex;
  gap: 1px;
  align-items: center;
  flex-wrap: wrap;
`;

/** The compact form of the rule: typed, it changes the rule; it stays while it cannot be read. */
export function RuleText({ rule, name }: { rule: Rule; name: string }) {
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  return (
    <EntryField
      wide
      label={`Compact form of ${name}’s rule`}
      text={printRuleText(rule.any)}
      placeholder="hue 354..20 and sat >= 56 %"
      take={(text) => {
        const parsed = parseRuleText(text);
        if ("problem" in parsed) return `${tellProblem(parsed.problem)} The rule stays as it was.`;
        return edit("setTests", { ruleSet, rule: rule.id, any: parsed.value });
      }}
    />
  );
}

/** What can be done with a whole rule. Its props are plain, so that a drag does not render it anew. */
export const RuleTools = memo(function RuleTools(props: {
  rule: RuleId;
  on: boolean;
  name: string;
  position: number;
  last: boolean;
}) {
  const { rule, on, name, position, last } = props;
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const rules = useRules();
  const dispatch = useAppDispatch();
  const moveBy = useMoveRule(rule);
  const solo = useSolo();
  return (
    <Tools>
      <QuietButton
        aria-label={on ? "Switch off" : "Switch on"}
        onPress={() => edit("switchRule", { ruleSet, rule, on: !on })}
      >
        {on ? "Off" : "On"}
      </QuietButton>
      <QuietButton aria-label={`Solo ${name}’s rule`} onPress={() => solo(rule)}>
        Solo
      </QuietButton>
      <QuietButton isDisabled={position === 0} aria-label={`Move ${name}’s rule up`} onPress={() => moveBy(-1)}>
        ↑
      </QuietButton>
      <QuietButton isDisabled={last} aria-label={`Move ${name}’s rule down`} onPress={() => moveBy(1)}>
        ↓
      </QuietButton>
      <QuietButton
        aria-label={`Or: another clause for ${name}’s rule`}
        onPress={() => {
          const { any = [] } = rules().find((r) => r.id === rule) ?? {};
          const clause = { id: nextId("clause", any), all: any.at(-1)?.all ?? [] };
          edit("addClause", { ruleSet, rule, clause });
        }}
      >
        Or
      </QuietButton>
      <QuietButton
        aria-label={`Copy ${name}’s rule`}
        onPress={() => {
          const all = rules();
          const at = all.findIndex((r) => r.id === rule);
          const id = freeId<RuleId>(
            rule,
            all.map((r) => r.id),
          );
          edit("addRule", { ruleSet, rule: { ...all[at], id }, before: all[at + 1]?.id ?? null });
        }}
      >
        Copy
      </QuietButton>
      <QuietButton
        onPress={() => {
          edit("deleteRule", { ruleSet, rule });
          dispatch(ruleChosen(null));
        }}
      >
        Delete
      </QuietButton>
    </Tools>
  );
});

/** Adds a test to a clause. Its features come as one text, so that a drag does not render it anew. */
export const AddTest = memo(function AddTest(props: {
  rule: RuleId;
  clause: ClauseId;
  /** The clause's place in the rule, from 1. */
  number: number;
  tested: string;
  name: string;
}) {
  const { rule, clause, number, tested, name } = props;
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const given = REPORT_KINDS.get(useSensor().reports).features;
  const taken = tested.split(" ");
  const free = given.filter((f) => !taken.includes(f)).map((f) => ({ id: f, text: FEATURE_FACTS[f].word }));
  if (free.length === 0) return null;
  return (
    <Select<Feature>
      label={`Add a test to ${name}${number > 1 ? `, clause ${number}` : ""}`}
      hideLabel
      placeholder="Add a test"
      value={null}
      options={free}
      onChange={(feature) => edit("moveBound", { ruleSet, rule, clause, feature, end: "from", value: 0 })}
    />
  );
});

export const Or = styled.p`
  display: flex;
  align-items: center;
  justify-content: space-between;
  font-style: italic;
`;

/** Moves a rule up or down among the others. */
export function useMoveRule(rule: RuleId): (step: number) => void {
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const rules = useRules();
  return (step) => {
    const others = rules().filter((r) => r.id !== rule);
    const from = rules().findIndex((r) => r.id === rule);
    const to = Math.max(0, Math.min(others.length, from + step));
    edit("moveRule", { ruleSet, rule, before: others[to]?.id ?? null });
  };
}
