import { freeId, type Rule, type RuleId, type TargetId } from "@perceptum/core/project";
import { FEATURE_FACTS, FEATURES, type Feature } from "@perceptum/core/readings";
import { ruleMargin, setFeatureBound } from "@perceptum/core/rules";
import { firstBands } from "@perceptum/core/teaching";
import { memo } from "react";
import styled from "styled-components";
import { useMarkedTapes } from "../state/marked";
import { useEdit, useRuleSet, useSettledProject, useTargets, withRuleSet } from "../state/project";
import { useCurrentBlock, usePlayhead } from "../state/source";
import { useAppDispatch, useAppSelector } from "../state/store";
import { ruleChosen } from "../state/view";
import { Chip } from "../targets/Chip";
import { QuietButton } from "../ui/Button";
import { Empty, Num } from "../ui/layout";
import { Select } from "../ui/Select";
import { BandRow } from "./BandRow";
import { ruleSentence, ruleShort } from "./ruleWords";

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-direction: column;
  gap: 4px;
`;
const Card = styled.li<{ $chosen: boolean; $on: boolean }>`
  background: ${({ theme }) => theme.sheet};
  border: 1px solid ${({ theme, $chosen }) => ($chosen ? theme.ink : theme.rule)};
  box-shadow: ${({ theme, $chosen }) => ($chosen ? `inset 3px 0 0 ${theme.ink}` : "none")};
  border-radius: ${({ theme }) => theme.radius};
  ${({ $on, theme }) => !$on && `border-style: dashed; & b, & small { color: ${theme.ink3}; }`}
`;
const Face = styled(QuietButton)`
  width: 100%;
  display: grid;
  grid-template-columns: 14px 24px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  text-align: left;
  padding: 4px 8px;
  min-height: 38px;
  color: ${({ theme }) => theme.ink};
  & small { display: block; color: ${({ theme }) => theme.ink2}; font-size: 11px; letter-spacing: -0.01em; }
  & b { font-weight: 650; }
`;
const Open = styled.div`
  padding: 2px 8px 8px 12px;
`;
const Sentence = styled.p`
  font-size: 12px;
  color: ${({ theme }) => theme.ink2};
  padding: 4px 0 6px;
`;
const Tools = styled.div`
  display: flex;
  gap: 4px;
  align-items: center;
  flex-wrap: wrap;
`;

/** The rules in their order, the first match wins; the chosen one is open. */
export function RuleList() {
  const ruleSet = useRuleSet();
  return (
    <>
      {ruleSet.rules.length === 0 && <Empty>No rules yet: everything is unknown. Add one for a target below.</Empty>}
      <List aria-label="Rules, first match wins">
        {ruleSet.rules.map((rule, i) => (
          <RuleCard key={rule.id} rule={rule} position={i} last={i === ruleSet.rules.length - 1} />
        ))}
      </List>
    </>
  );
}

/** Adds a rule for a target that has none yet, with bands around its own marked readings. */
export function AddRule() {
  const ruled = useRuleSet()
    .rules.map((r) => r.target)
    .join(" ");
  return <AddRuleFor ruled={ruled} />;
}

const AddRuleFor = memo(function AddRuleFor({ ruled }: { ruled: string }) {
  const { targets } = useSettledProject();
  const tapes = useMarkedTapes();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const taken = ruled.split(" ");
  const without = targets.filter((t) => !taken.includes(t.id)).map((t) => ({ id: t.id, text: t.name }));
  const add = (target: TargetId) => {
    const bands = firstBands(tapes, targets.findIndex((t) => t.id === target) + 1);
    edit(`a rule for ${target}`, (p) => {
      const [set] = p.ruleSets;
      const id = freeId<RuleId>(
        target,
        set.rules.map((r) => r.id),
      );
      dispatch(ruleChosen({ rule: id, target }));
      return withRuleSet(p, { ...set, rules: [...set.rules, { id, target, on: true, any: [{ all: bands }] }] });
    });
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

const RuleCard = memo(function RuleCard({ rule, position, last }: { rule: Rule; position: number; last: boolean }) {
  const targets = useTargets();
  const target = targets.get(rule.target);
  const name = target?.name ?? rule.target;
  const chosen = useAppSelector((state) => state.view.rule === rule.id);
  const dispatch = useAppDispatch();
  const margin = useMarginNow(rule);
  const tested = (rule.any.at(-1)?.all ?? []).map((t) => t.feature).join(" ");
  return (
    <Card $chosen={chosen} $on={rule.on}>
      <Face
        aria-expanded={chosen}
        aria-label={`Rule ${position + 1}, ${name}${rule.on ? "" : ", off"}`}
        onPress={() => dispatch(ruleChosen(chosen ? null : { rule: rule.id, target: rule.target }))}
      >
        <Num>{position + 1}</Num>
        <Chip target={target} />
        <span style={{ minWidth: 0 }}>
          <b>{name}</b>
          {!chosen && <small>{rule.on ? ruleShort(rule) : `off · ${ruleShort(rule)}`}</small>}
        </span>
        <Num title="margin at the playhead">
          {margin === undefined ? "" : `${margin < 0 ? "−" : "+"}${Math.abs(margin).toFixed(2)}`}
        </Num>
      </Face>
      {chosen && (
        <Open>
          {rule.any.map((_, clause) => (
            <Clause key={clause} rule={rule} clause={clause} name={name} />
          ))}
          <Sentence>{ruleSentence(rule, name)}</Sentence>
          <RuleTools
            rule={rule.id}
            on={rule.on}
            name={name}
            position={position}
            last={last}
            tested={tested}
            clause={rule.any.length - 1}
          />
        </Open>
      )}
    </Card>
  );
});

/** What can be done with a whole rule. Its props are plain, so that a drag does not render it anew. */
const RuleTools = memo(function RuleTools(props: {
  rule: RuleId;
  on: boolean;
  name: string;
  position: number;
  last: boolean;
  tested: string;
  clause: number;
}) {
  const { rule, on, name, position, last, tested, clause } = props;
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const set = (what: string, change: (rules: Rule[]) => Rule[]) =>
    edit(what, (p) => withRuleSet(p, { ...p.ruleSets[0], rules: change(p.ruleSets[0].rules) }));
  const moveBy = (step: 1 | -1) =>
    set(`moving ${name}’s rule`, (rules) =>
      rules.toSpliced(position, 1).toSpliced(position + step, 0, rules[position]),
    );
  return (
    <Tools>
      <AddTest rule={rule} clause={clause} tested={tested} name={name} />
      <QuietButton
        onPress={() =>
          set(on ? `switching ${name}’s rule off` : `switching ${name}’s rule on`, (rules) =>
            rules.map((r) => (r.id === rule ? { ...r, on: !r.on } : r)),
          )
        }
      >
        {on ? "Switch off" : "Switch on"}
      </QuietButton>
      <QuietButton isDisabled={position === 0} aria-label={`Move ${name}’s rule up`} onPress={() => moveBy(-1)}>
        ↑
      </QuietButton>
      <QuietButton isDisabled={last} aria-label={`Move ${name}’s rule down`} onPress={() => moveBy(1)}>
        ↓
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

function Clause({ rule, clause, name }: { rule: Rule; clause: number; name: string }) {
  return (
    <div>
      {clause > 0 && <i>or</i>}
      {rule.any[clause].all.map((test, i) => (
        <BandRow
          key={`${test.feature} ${test.not}`}
          rule={rule.id}
          clause={clause}
          index={i}
          test={test}
          owner={name}
        />
      ))}
    </div>
  );
}

/** Adds a test to the last clause of a rule. Its features come as one text, so that a drag does not render it anew. */
const AddTest = memo(function AddTest(props: { rule: RuleId; clause: number; tested: string; name: string }) {
  const { rule, clause, tested, name } = props;
  const edit = useEdit();
  const taken = tested.split(" ");
  const free = FEATURES.filter((f) => !taken.includes(f)).map((f) => ({ id: f, text: FEATURE_FACTS[f].word }));
  if (clause < 0 || free.length === 0) return null;
  return (
    <Select<Feature>
      label={`Add a test to ${name}`}
      hideLabel
      placeholder="Add a test"
      value={null}
      options={free}
      onChange={(feature) =>
        edit(`a ${FEATURE_FACTS[feature].word} test for ${name}`, (p) =>
          withRuleSet(p, setFeatureBound(p.ruleSets[0], rule, clause, feature, "from", 0)),
        )
      }
    />
  );
});

function useMarginNow(rule: Rule): number | undefined {
  const source = useCurrentBlock();
  const t = usePlayhead(source?.source);
  const index = source?.block.indexAt(t) ?? -1;
  return source === null || index < 0 ? undefined : ruleMargin(rule, source.block.at(index));
}
