import type { ClauseId, RuleId } from "@perceptum/core/names";
import { exactShown, FEATURE_FACTS, valueShownAs } from "@perceptum/core/readings";
import type { Test } from "@perceptum/core/rules";
import { memo } from "react";
import styled from "styled-components";
import { useEdit, useRuleSetId } from "../hooks/project";
import { EntryField } from "../ui/EntryField";

const Row = styled.div`
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr) auto;
  gap: 6px;
  align-items: center;
  padding: 2px 0;
`;
const Ends = styled.div`
  display: grid;
  grid-template-columns: 56px minmax(20px, 1fr) 56px;
  gap: 6px;
  align-items: center;
  & > p { grid-column: 1 / 4; }
`;
const Track = styled.span`
  height: 12px;
  background: ${({ theme }) => theme.ruleSoft};
  position: relative;
  overflow: hidden;
  order: 0;
  & > i { position: absolute; top: 0; bottom: 0; background: ${({ theme }) => theme.ink}; }
`;

const LeaveOut = styled.button`
  border: 0;
  background: none;
  padding: 2px 5px;
  color: ${({ theme }) => theme.ink2};
  &:hover { background: ${({ theme }) => theme.pressed}; color: ${({ theme }) => theme.ink}; }
`;

/** One band as two numbers; an empty one is an open end. */
export const BandRow = memo(function BandRow(props: {
  rule: RuleId;
  clause: ClauseId;
  /** The test's place among those of its kind in the clause, from 0. */
  nth: number;
  test: Test;
  owner: string;
}) {
  const { rule, clause, nth, test, owner } = props;
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const { feature, not, from, to } = test;
  const place = { ruleSet, rule, clause, feature, not, nth };
  const { unit, max, step } = FEATURE_FACTS[feature];
  const onBound = (end: "from" | "to", value: number | undefined) =>
    edit("moveBound", { ...place, end, value: value ?? null });
  const onRemove = () => edit("deleteTest", place);
  const share = (v: number) => `${(v / max) * 100}%`;
  const wraps = from !== undefined && to !== undefined && from > to;
  const bars = wraps
    ? [
        [from, max],
        [0, to],
      ]
    : [[from ?? 0, to ?? max]];

  const take = (end: "from" | "to") => (text: string) => {
    const trimmed = text
      .trim()
      .replace(",", ".")
      .replace(/\s*[%°]$/, "");
    if (trimmed === "") {
      onBound(end, undefined);
      return undefined;
    }
    const shown = Number(trimmed);
    const which = `${end === "from" ? "lower" : "upper"} ${FEATURE_FACTS[feature].word} bound`;
    if (!Number.isFinite(shown)) return `“${text}” is not a number; the ${which} stays as it was.`;
    const value = valueShownAs(feature, shown);
    if (value < 0 || value > max)
      return `The ${which} lies from 0 to ${max === 1 ? "100 %" : `${max}${unit}`}; it stays as it was.`;
    const other = end === "from" ? to : from;
    if (feature !== "hue" && other !== undefined && (end === "from" ? value > other : value < other)) {
      return `The ${which} must not pass the other limit; it stays as it was.`;
    }
    onBound(end, feature === "hue" && value === 360 ? 0 : value);
    return undefined;
  };
  const stepBound = (end: "from" | "to") => (direction: 1 | -1, times: number) => {
    const now = test[end] ?? (end === "from" ? 0 : max);
    // Counted in steps from whole figures, so that 0.1 + 0.2 stays 0.3.
    const next = Math.round((now + direction * times * step) / step) * step;
    if (feature === "hue") {
      onBound(end, ((next % 360) + 360) % 360);
      return;
    }
    const low = end === "to" ? (from ?? 0) : 0;
    const high = end === "from" ? (to ?? max) : max;
    onBound(end, Math.max(low, Math.min(high, Number(next.toFixed(4)))));
  };
  const field = (end: "from" | "to") => (
    <EntryField
      mono
      label={`${owner}, ${end === "from" ? "lower" : "upper"} ${FEATURE_FACTS[feature].word} bound`}
      text={test[end] === undefined ? "" : exactShown(feature, test[end])}
      placeholder="open"
      take={take(end)}
      step={stepBound(end)}
    />
  );
  return (
    <Row>
      <span title={FEATURE_FACTS[feature].word}>
        {test.not ? "not " : ""}
        {feature} {unit}
      </span>
      <Ends>
        {field("from")}
        <Track>
          {bars.map(([a, b]) => (
            <i key={a} style={{ left: share(a), width: `max(2px, ${share(b - a)})` }} />
          ))}
        </Track>
        {field("to")}
      </Ends>
      <LeaveOut type="button" aria-label={`Leave out the ${FEATURE_FACTS[feature].word} test`} onClick={onRemove}>
        ×
      </LeaveOut>
    </Row>
  );
});
