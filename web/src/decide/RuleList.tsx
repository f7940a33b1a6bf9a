import { parseRuleText, printRuleText } from "@perceptum/core/behaviour";
import { freeId, type RuleId } from "@perceptum/core/names";
import { FEATURE_FACTS, type Feature, REPORT_KINDS } from "@perceptum/core/readings";
import { type Rule, ruleMargin, setFeatureBound, withRule } from "@perceptum/core/rules";
import { memo, useCallback, useRef } from "react";
import styled from "styled-components";
import { useEditRules, useRuleSet, useSensor, useTargets } from "../session/project";
import { useNow } from "../session/source";
import { DRAG, gestureEnded } from "../state/document";
import { useAppDispatch, useAppSelector } from "../state/store";
import { ruleChosen } from "../state/view";
import { Chip } from "../targets/Chip";
import { QuietButton } from "../ui/Button";
import { EntryField } from "../ui/EntryField";
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
  position: relative;
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
const Or = styled.p`
  display: flex;
  align-items: center;
  justify-content: space-between;
  font-style: italic;
`;
const Grip = styled.span`
  position: absolute;
  left: 2px;
  top: 1px;
  width: 22px;
  height: 36px;
  cursor: grab;
  touch-action: none;
`;
const Tools = styled.div`
  display: flex;
  gap: 1px;
  align-items: center;
  flex-wrap: wrap;
`;

/** The rules in their order, the first match wins; the chosen one is open. */
export function RuleList() {
  const ruleSet = useRuleSet();
  const edit = useEditRules();
  const list = useRef<HTMLOListElement>(null);
  /** Moves a dragged rule to where the pointer is. */
  const dragTo = useCallback(
    (rule: RuleId, y: number) => {
      const boxes = [...(list.current?.children ?? [])].map((card) => card.getBoundingClientRect());
      const to = boxes.findIndex((box) => y < box.top + box.height / 2);
      edit(
        "moving a rule",
        (set) => {
          const from = set.rules.findIndex((r) => r.id === rule);
          const place = to < 0 ? set.rules.length - 1 : to > from ? to - 1 : to;
          if (from < 0 || place === from) return set;
          return { ...set, rules: set.rules.toSpliced(from, 1).toSpliced(place, 0, set.rules[from]) };
        },
        `${DRAG}rules`,
      );
    },
    [edit],
  );
  return (
    <>
      {ruleSet.rules.length === 0 && (
        <Empty>No rules yet: everything is unknown. Take the suggestion, or add one for a target below.</Empty>
      )}
      <List aria-label="Rules, first match wins" ref={list}>
        {ruleSet.rules.map((rule, i) => (
          <RuleCard key={rule.id} rule={rule} position={i} last={i === ruleSet.rules.length - 1} onDragTo={dragTo} />
        ))}
      </List>
    </>
  );
}

const RuleCard = memo(function RuleCard(props: {
  rule: Rule;
  position: number;
  last: boolean;
  onDragTo: (rule: RuleId, y: number) => void;
}) {
  const { rule, position, last, onDragTo } = props;
  const dragging = useRef(false);
  const moveBy = useMoveRule(rule.id);
  const targets = useTargets();
  const target = targets.get(rule.target);
  const name = target?.name ?? rule.target;
  const chosen = useAppSelector((state) => state.view.rule === rule.id);
  const dispatch = useAppDispatch();
  const margin = useMarginNow(rule);
  return (
    <Card $chosen={chosen} $on={rule.on}>
      <Grip
        aria-hidden
        title="Drag to move the rule"
        onPointerDown={(event) => {
          dragging.current = true;
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={(event) => dragging.current && event.buttons !== 0 && onDragTo(rule.id, event.clientY)}
        onLostPointerCapture={() => {
          dragging.current = false;
          dispatch(gestureEnded());
        }}
      />
      <Face
        onKeyDown={(event) => {
          const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
          if (!event.altKey || step === undefined) return;
          event.preventDefault();
          moveBy(step);
        }}
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
          <RuleText rule={rule} name={name} />
          <RuleTools rule={rule.id} on={rule.on} name={name} position={position} last={last} />
        </Open>
      )}
    </Card>
  );
});

/** Moves a rule up or down among the others. */
function useMoveRule(rule: RuleId): (step: number) => void {
  const edit = useEditRules();
  return (step) =>
    edit("moving a rule", (set) => {
      const from = set.rules.findIndex((r) => r.id === rule);
      const to = Math.max(0, Math.min(set.rules.length - 1, from + step));
      return { ...set, rules: set.rules.toSpliced(from, 1).toSpliced(to, 0, set.rules[from]) };
    });
}

/** The compact form of the rule: typed, it changes the rule; it stays while it cannot be read. */
function RuleText({ rule, name }: { rule: Rule; name: string }) {
  const edit = useEditRules();
  return (
    <EntryField
      wide
      label={`Compact form of ${name}’s rule`}
      text={printRuleText(rule.any)}
      placeholder="hue 354..20 and sat >= 56 %"
      take={(text) => {
        const parsed = parseRuleText(text);
        if ("problem" in parsed)
          return `Column ${parsed.problem.column}: ${parsed.problem.message}. The rule stays as it was.`;
        edit(`typing ${name}’s rule`, (set) => withRule(set, rule.id, (r) => ({ ...r, any: parsed.value })));
        return undefined;
      }}
    />
  );
}

/** What can be done with a whole rule. Its props are plain, so that a drag does not render it anew. */
const RuleTools = memo(function RuleTools(props: {
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
      <QuietButton
        aria-label={`Solo ${name}’s rule`}
        onPress={() =>
          set("solo", (rules) => {
            const alone = rules.every((r) => r.on === (r.id === rule));
            return rules.map((r) => ({ ...r, on: alone || r.id === rule }));
          })
        }
      >
        Solo
      </QuietButton>
      <QuietButton isDisabled={position === 0} aria-label={`Move ${name}’s rule up`} onPress={() => moveBy(-1)}>
        ↑
      </QuietButton>
      <QuietButton isDisabled={last} aria-label={`Move ${name}’s rule down`} onPress={() => moveBy(1)}>
        ↓
      </QuietButton>
      <QuietButton
        aria-label={`Add a clause to ${name}’s rule`}
        onPress={() =>
          edit(`another clause for ${name}`, (s) =>
            withRule(s, rule, (r) => ({ ...r, any: [...r.any, { all: r.any.at(-1)?.all ?? [] }] })),
          )
        }
      >
        Or
      </QuietButton>
      <QuietButton
        aria-label={`Duplicate ${name}’s rule`}
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

function Clause({ rule, clause, name }: { rule: Rule; clause: number; name: string }) {
  const edit = useEditRules();
  return (
    <div>
      {clause > 0 && (
        <Or>
          or
          <QuietButton
            aria-label={`Leave out clause ${clause + 1} of ${name}’s rule`}
            onPress={() =>
              edit(`leaving out a clause of ${name}`, (s) =>
                withRule(s, rule.id, (r) => ({ ...r, any: r.any.toSpliced(clause, 1) })),
              )
            }
          >
            ×
          </QuietButton>
        </Or>
      )}
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
      <AddTest
        rule={rule.id}
        clause={clause}
        tested={rule.any[clause].all.map((t) => t.feature).join(" ")}
        name={name}
      />
    </div>
  );
}

/** Adds a test to a clause. Its features come as one text, so that a drag does not render it anew. */
const AddTest = memo(function AddTest(props: { rule: RuleId; clause: number; tested: string; name: string }) {
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

function useMarginNow(rule: Rule): number | undefined {
  const now = useNow();
  return now === null ? undefined : ruleMargin(rule, now.block.at(now.index));
}
