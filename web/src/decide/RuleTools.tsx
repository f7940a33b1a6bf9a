import { parseRuleText, printRuleText } from "@perceptum/core/behaviour";
import { freeId, nextId, type RuleId } from "@perceptum/core/names";
import { tellProblem } from "@perceptum/core/phrases";
import { FEATURE_FACTS, type Feature, REPORT_KINDS } from "@perceptum/core/readings";
import { type Rule, setFeatureBound, withRule } from "@perceptum/core/rules";
import { memo } from "react";
import styled from "styled-components";
import { useEditRules, useSensor } from "../session/project";
import { useAppDispatch } from "../state/store";
import { ruleChosen } from "../state/view";
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
  const edit = useEditRules();
  return (
    <EntryField
      wide
      label={`Compact form of ${name}’s rule`}
      text={printRuleText(rule.any)}
      placeholder="hue 354..20 and sat >= 56 %"
      take={(text) => {
        const parsed = parseRuleText(text);
        if ("problem" in parsed) return `${tellProblem(parsed.problem)} The rule stays as it was.`;
        edit(`typing ${name}’s rule`, (set) => withRule(set, rule.id, (r) => ({ ...r, any: parsed.value })));
        return undefined;
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
  const edit = useEditRules();
  const dispatch = useAppDispatch();
  const moveBy = useMoveRule(rule);
  const solo = useSolo();
  const set = (what: string, change: (rules: Rule[]) => Rule[]) =>
    edit(what, (s) => ({ ...s, rules: change(s.rules) }));
  return (
    <Tools>
      <QuietButton
        aria-label={on ? "Switch off" : "Switch on"}
        onPress={() =>
          set(on ? `switching ${name}’s rule off` : `switching ${name}’s rule on`, (rules) =>
            rules.map((r) => (r.id === rule ? { ...r, on: !r.on } : r)),
          )
        }
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
        onPress={() =>
          edit(`another clause for ${name}`, (s) =>
            withRule(s, rule, (r) => ({
              ...r,
              any: [...r.any, { id: nextId("clause", r.any), all: r.any.at(-1)?.all ?? [] }],
            })),
          )
        }
      >
        Or
      </QuietButton>
      <QuietButton
        aria-label={`Copy ${name}’s rule`}
        onPress={() =>
          set(`duplicating ${name}’s rule`, (rules) => {
            const at = rules.findIndex((r) => r.id === rule);
            const id = freeId<RuleId>(
              rule,
              rules.map((r) => r.id),
            );
            return rules.toSpliced(at + 1, 0, { ...rules[at], id });
          })
        }
      >
        Copy
      </QuietButton>
      <QuietButton
        onPress={() => {
          set(`deleting ${name}’s rule`, (rules) => rules.filter((r) => r.id !== rule));
          dispatch(ruleChosen(null));
        }}
      >
        Delete
      </QuietButton>
    </Tools>
  );
});

/** Adds a test to a clause. Its features come as one text, so that a drag does not render it anew. */
export const AddTest = memo(function AddTest(props: { rule: RuleId; clause: number; tested: string; name: string }) {
  const { rule, clause, tested, name } = props;
  const edit = useEditRules();
  const given = REPORT_KINDS[useSensor().reports].features;
  const taken = tested.split(" ");
  const free = given.filter((f) => !taken.includes(f)).map((f) => ({ id: f, text: FEATURE_FACTS[f].word }));
  if (free.length === 0) return null;
  return (
    <Select<Feature>
      label={`Add a test to ${name}${clause > 0 ? `, clause ${clause + 1}` : ""}`}
      hideLabel
      placeholder="Add a test"
      value={null}
      options={free}
      onChange={(feature) =>
        edit(`a ${FEATURE_FACTS[feature].word} test for ${name}`, (set) =>
          setFeatureBound(set, rule, clause, feature, "from", 0),
        )
      }
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
  const edit = useEditRules();
  return (step) =>
    edit("moving a rule", (set) => {
      const from = set.rules.findIndex((r) => r.id === rule);
      const to = Math.max(0, Math.min(set.rules.length - 1, from + step));
      return { ...set, rules: set.rules.toSpliced(from, 1).toSpliced(to, 0, set.rules[from]) };
    });
}
