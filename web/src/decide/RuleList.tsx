import type { RuleId } from "@perceptum/core/names";
import { placeOfTest, type Rule, ruleMargin, type Target } from "@perceptum/core/rules";
import { memo, useCallback, useEffect, useRef } from "react";
import styled from "styled-components";
import { useEdit, useRuleSet, useRuleSetId, useRules, useTargets } from "../hooks/project";
import { useNow } from "../hooks/source";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { gestureEnded } from "../model/store/document";
import { ruleChosen } from "../model/store/view";
import { Chip } from "../targets/Chip";
import { QuietButton } from "../ui/Button";
import { Empty, Num } from "../ui/layout";
import { usePointerDrag } from "../ui/usePointerDrag";
import { BandRow } from "./BandRow";
import { AddTest, Or, RuleText, RuleTools, useMoveRule } from "./RuleTools";
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

const Grip = styled.span`
  position: absolute;
  left: 2px;
  top: 1px;
  width: 22px;
  height: 36px;
  cursor: grab;
  touch-action: none;
`;

/** The rules in their order, the first match wins; the chosen one is open. */
export function RuleList() {
  const ruleSet = useRuleSet();
  const edit = useEdit();
  const ruleSetId = useRuleSetId();
  const rules = useRules();
  const list = useRef<HTMLOListElement>(null);
  /** Moves a dragged rule to where the pointer is. */
  const dragTo = useCallback(
    (rule: RuleId, y: number) => {
      const boxes = [...(list.current?.children ?? [])].map((card) => card.getBoundingClientRect());
      const to = boxes.findIndex((box) => y < box.top + box.height / 2);
      edit("moveRule", { ruleSet: ruleSetId, rule, before: rules()[to]?.id ?? null }, "drag");
    },
    [edit, ruleSetId, rules],
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
  const targets = useTargets();
  const target = targets.get(rule.target);
  const name = target?.name ?? rule.target;
  const chosen = useAppSelector((state) => state.view.rule === rule.id);
  const dispatch = useAppDispatch();
  const margin = useMarginNow(rule);
  const card = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (chosen) card.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  const drag = usePointerDrag<RuleId>({
    move: ({ clientY }, held) => onDragTo(held, clientY),
    end: () => dispatch(gestureEnded()),
  });
  return (
    <Card ref={card} $chosen={chosen} $on={rule.on}>
      <Grip
        aria-hidden
        title="Drag to move the rule"
        onPointerDown={(event) => {
          if (event.button === 0) drag.begin(event, rule.id);
        }}
        {...drag.handlers}
      />
      <RuleFace
        rule={rule.id}
        target={target}
        name={name}
        position={position}
        on={rule.on}
        chosen={chosen}
        short={chosen ? "" : ruleShort(rule)}
        margin={margin === undefined ? "" : `${margin < 0 ? "−" : "+"}${Math.abs(margin).toFixed(2)}`}
      />
      {chosen && (
        <Open>
          {rule.any.map(({ id }, at) => (
            <Clause key={id} rule={rule} at={at} name={name} />
          ))}
          <Sentence>{ruleSentence(rule, name)}</Sentence>
          <RuleText rule={rule} name={name} />
          <RuleTools rule={rule.id} on={rule.on} name={name} position={position} last={last} />
        </Open>
      )}
    </Card>
  );
});

/** A value that changes as the tape plays: no part of the button's name. */
const Margin = styled(Num)`
  &::before { content: attr(data-margin); }
`;

/** What is always seen of a rule; pressed, it opens. Its props are plain, so that a drag seldom renders it anew. */
const RuleFace = memo(function RuleFace(props: {
  rule: RuleId;
  target: Target | undefined;
  name: string;
  position: number;
  on: boolean;
  chosen: boolean;
  short: string;
  margin: string;
}) {
  const { rule, target, name, position, on, chosen, short, margin } = props;
  const moveBy = useMoveRule(rule);
  const dispatch = useAppDispatch();
  const told = [!on && "off", !chosen && short].filter(Boolean).join(" · ");
  return (
    <Face
      onKeyDown={(event) => {
        const step = { ArrowUp: -1, ArrowDown: 1 }[event.key];
        if (!event.altKey || step === undefined) return;
        event.preventDefault();
        moveBy(step);
      }}
      aria-expanded={chosen}
      aria-label={`Rule ${position + 1}, ${name}${told && `, ${told}`}`}
      onPress={() => dispatch(ruleChosen(chosen || target === undefined ? null : { rule, target: target.id }))}
    >
      <Num>{position + 1}</Num> <Chip target={target} />
      <span style={{ minWidth: 0 }}>
        <b>{name}</b>
        {!chosen && <small> {told}</small>}
      </span>
      <Margin aria-hidden title="margin at the playhead" data-margin={margin} />
    </Face>
  );
});

function Clause({ rule, at, name }: { rule: Rule; at: number; name: string }) {
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const { id: clause, all } = rule.any[at];
  return (
    <div>
      {at > 0 && (
        <Or>
          or
          <QuietButton
            aria-label={`Leave out clause ${at + 1} of ${name}’s rule`}
            onPress={() => edit("deleteClause", { ruleSet, rule: rule.id, clause })}
          >
            ×
          </QuietButton>
        </Or>
      )}
      {all.map((test, i) => {
        const { feature, not = false, nth = 0 } = placeOfTest(all, i);
        return (
          <BandRow key={`${feature} ${not} ${nth}`} rule={rule.id} clause={clause} nth={nth} test={test} owner={name} />
        );
      })}
      <AddTest
        rule={rule.id}
        clause={clause}
        number={at + 1}
        tested={all.map((t) => t.feature).join(" ")}
        name={name}
      />
    </div>
  );
}

function useMarginNow(rule: Rule): number | undefined {
  const now = useNow();
  return now === null ? undefined : ruleMargin(rule, now.block.at(now.index));
}
