import { freeId, type Rule, type RuleId, type TargetId } from "@perceptum/core/project";
import { FEATURES, type Feature } from "@perceptum/core/readings";
import { ruleMargin, setBound, setFeatureBound, withRule } from "@perceptum/core/rules";
import { firstBands } from "@perceptum/core/teaching";
import styled from "styled-components";
import { useMarkedTapes } from "../state/marked";
import { useEdit, useProject, useRuleSet, useTargets, withRuleSet } from "../state/project";
import { usePlayhead, useSource } from "../state/source";
import { useAppDispatch, useAppSelector } from "../state/store";
import { ruleChosen } from "../state/view";
import { Chip } from "../targets/Chip";
import { QuietButton } from "../ui/Button";
import { Empty, Num } from "../ui/layout";
import { Select } from "../ui/Select";
import { BandRow } from "./BandRow";
import { FEATURE_WORDS, ruleSentence, ruleShort } from "./ruleWords";

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
          <RuleCard key={rule.id} rule={rule} position={i} />
        ))}
      </List>
    </>
  );
}

/** Adds a rule for a target that has none yet, with bands around its own marked readings. */
export function AddRule() {
  const ruleSet = useRuleSet();
  const { targets } = useProject();
  const tapes = useMarkedTapes();
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const ruled = new Set(ruleSet.rules.map((r) => r.target));
  const without = targets.filter((t) => !ruled.has(t.id)).map((t) => ({ id: t.id, text: t.name }));
  const add = (target: TargetId) => {
    const id = freeId<RuleId>(
      target,
      ruleSet.rules.map((r) => r.id),
    );
    const bands = firstBands(tapes, targets.findIndex((t) => t.id === target) + 1);
    edit(`a rule for ${target}`, (p) =>
      withRuleSet(p, { ...ruleSet, rules: [...ruleSet.rules, { id, target, on: true, any: [{ all: bands }] }] }),
    );
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
}

function RuleCard({ rule, position }: { rule: Rule; position: number }) {
  const ruleSet = useRuleSet();
  const targets = useTargets();
  const target = targets.get(rule.target);
  const name = target?.name ?? rule.target;
  const chosen = useAppSelector((state) => state.view.rule === rule.id);
  const dispatch = useAppDispatch();
  const edit = useEdit();
  const margin = useMarginNow(rule);
  const set = (what: string, rules: Rule[]) => edit(what, (p) => withRuleSet(p, { ...ruleSet, rules }));
  const moveBy = (step: 1 | -1) => {
    const rules = [...ruleSet.rules];
    rules.splice(position, 1);
    rules.splice(position + step, 0, rule);
    set(`moving ${name}’s rule`, rules);
  };
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
          <Tools>
            <AddTest rule={rule} name={name} />
            <QuietButton
              onPress={() =>
                set(
                  rule.on ? `switching ${name}’s rule off` : `switching ${name}’s rule on`,
                  ruleSet.rules.map((r) => (r.id === rule.id ? { ...r, on: !r.on } : r)),
                )
              }
            >
              {rule.on ? "Switch off" : "Switch on"}
            </QuietButton>
            <QuietButton isDisabled={position === 0} aria-label={`Move ${name}’s rule up`} onPress={() => moveBy(-1)}>
              ↑
            </QuietButton>
            <QuietButton
              isDisabled={position === ruleSet.rules.length - 1}
              aria-label={`Move ${name}’s rule down`}
              onPress={() => moveBy(1)}
            >
              ↓
            </QuietButton>
            <QuietButton
              onPress={() => {
                set(
                  `deleting ${name}’s rule`,
                  ruleSet.rules.filter((r) => r.id !== rule.id),
                );
                dispatch(ruleChosen(null));
              }}
            >
              Delete
            </QuietButton>
          </Tools>
        </Open>
      )}
    </Card>
  );
}

function Clause({ rule, clause, name }: { rule: Rule; clause: number; name: string }) {
  const ruleSet = useRuleSet();
  const edit = useEdit();
  const { all } = rule.any[clause];
  return (
    <div>
      {clause > 0 && <i>or</i>}
      {all.map((test, i) => (
        <BandRow
          key={`${test.feature} ${test.not}`}
          test={test}
          owner={name}
          onBound={(end, value) =>
            edit(`${name}’s ${FEATURE_WORDS[test.feature]} bound`, (p) =>
              withRuleSet(p, setBound(ruleSet, { rule: rule.id, clause, test: i, end }, value)),
            )
          }
          onRemove={() =>
            edit(`leaving out ${name}’s ${FEATURE_WORDS[test.feature]} test`, (p) =>
              withRuleSet(
                p,
                withRule(ruleSet, rule.id, (r) => ({
                  ...r,
                  any: r.any.map((c, k) => (k === clause ? { all: c.all.filter((_, j) => j !== i) } : c)),
                })),
              ),
            )
          }
        />
      ))}
    </div>
  );
}

/** Adds a test to the last clause of a rule. */
function AddTest({ rule, name }: { rule: Rule; name: string }) {
  const ruleSet = useRuleSet();
  const edit = useEdit();
  const clause = rule.any.length - 1;
  const tested = new Set(rule.any[clause]?.all.map((t) => t.feature));
  const free = FEATURES.filter((f) => !tested.has(f)).map((f) => ({ id: f, text: FEATURE_WORDS[f] }));
  if (clause < 0 || free.length === 0) return null;
  return (
    <Select<Feature>
      label={`Add a test to ${name}`}
      hideLabel
      placeholder="Add a test"
      value={null}
      options={free}
      onChange={(feature) =>
        edit(`a ${FEATURE_WORDS[feature]} test for ${name}`, (p) =>
          withRuleSet(p, setFeatureBound(ruleSet, rule.id, clause, feature, "from", 0)),
        )
      }
    />
  );
}

function useMarginNow(rule: Rule): number | undefined {
  const source = useSource();
  const t = usePlayhead(source?.source);
  const index = source?.block.indexAt(t) ?? -1;
  return source === null || index < 0 ? undefined : ruleMargin(rule, source.block.at(index));
}
