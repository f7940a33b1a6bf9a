import { FEATURE_FACTS, shownValue } from "@perceptum/core/readings";
import { bandOf, type Rule } from "@perceptum/core/rules";
import { useRef } from "react";
import styled from "styled-components";
import { useEdit, useRuleSetId, useTargets } from "../../hooks/project";
import { useAppDispatch } from "../../hooks/store";
import { type Gesture, gestureEnded } from "../../model/store/document";
import { arrowStep } from "../../ui/arrows";
import { usePointerDrag } from "../../ui/usePointerDrag";
import type { Axis } from "./axis";

export interface Sides {
  xAxis: Axis;
  yAxis: Axis;
  width: number;
  height: number;
}

/** The stretch of an axis that a clause's band covers, 0..1; a band through the seam has its end before its start. */
export function stretchOf(rule: Rule, clause: number, axis: Axis): { from: number; to: number } {
  const { all } = rule.any[clause];
  const { from, to } = all[bandOf(all, axis.feature)] ?? {};
  // An open end of a hue band lies at 0°, wherever the axis is cut.
  const cut = axis.feature === "hue" && (from !== undefined || to !== undefined);
  return {
    from: from !== undefined ? axis.at(from) : cut ? axis.at(0) : axis.start,
    to: to !== undefined ? axis.at(to) : cut ? axis.at(359.99) : axis.end,
  };
}

const Handle = styled.g`
  & .sign { fill: ${({ theme }) => theme.sheet}; stroke: ${({ theme }) => theme.ink}; stroke-width: 1.5; }
  & .hold { fill: transparent; }
  &:focus-visible { outline: none; }
  &:focus-visible .sign { stroke-width: 3.5; }
`;

/** The sides of what is drawn and of where it can be taken hold of, in CSS pixels: a finger is wide. */
const SIGN = 9;
const HOLD = 24;
const square = (cx: number, cy: number, side: number) => ({
  x: cx - side / 2,
  y: cy - side / 2,
  width: side,
  height: side,
});

/** One bound of a box: dragged, or moved by the arrow keys. At the end of its axis the bound is open. */
export function BoundHandle(props: {
  rule: Rule;
  clause: number;
  axis: Axis;
  end: "from" | "to";
  cx: number;
  cy: number;
  along: "x" | "y";
  size: number;
}) {
  const { rule, clause, axis, end, cx, cy, along, size } = props;
  const edit = useEdit();
  const ruleSet = useRuleSetId();
  const dispatch = useAppDispatch();
  const targets = useTargets();
  const handle = useRef<SVGGElement>(null);
  const { feature } = axis;
  const { max, unit, step } = FEATURE_FACTS[feature];
  const { id, all } = rule.any[clause];
  const test = all[bandOf(all, feature)];
  const value = test?.[end] ?? (end === "from" ? 0 : max);
  const of = clause > 0 ? `, clause ${clause + 1}` : "";
  const name = `${targets.get(rule.target)?.name}${of}, ${end === "from" ? "lower" : "upper"} ${FEATURE_FACTS[feature].word} bound`;

  const set = (next: number, by: Gesture) => {
    // Pushed to the end of its range, a bound is open.
    const isOpen = feature !== "hue" && (end === "from" ? next <= 0 : next >= max);
    const place = { ruleSet, rule: rule.id, clause: id, feature, end };
    edit("moveBound", { ...place, value: isOpen ? null : next, goes: true }, by);
  };
  const drag = usePointerDrag<{ from: number; at: number }>({
    raw: handle,
    move({ clientX, clientY }, { from, at }) {
      const share = along === "x" ? (clientX - from) / size : (from - clientY) / size;
      set(axis.value(at + share), "drag");
    },
    end: () => dispatch(gestureEnded()),
  });
  return (
    <Handle
      ref={handle}
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuemin={0}
      aria-valuemax={shownValue(feature, max)}
      aria-valuenow={Math.round(shownValue(feature, value) * 10) / 10}
      aria-valuetext={
        test?.[end] === undefined ? "open" : `${Math.round(shownValue(feature, value) * 10) / 10} ${unit}`
      }
      aria-orientation={along === "x" ? "horizontal" : "vertical"}
      style={{ cursor: along === "x" ? "ew-resize" : "ns-resize" }}
      onPointerDown={(event) => {
        event.currentTarget.focus();
        drag.begin(event, {
          from: along === "x" ? event.clientX : event.clientY,
          at: along === "x" ? cx / size : 1 - cy / size,
        });
        event.stopPropagation();
      }}
      {...drag.handlers}
      onKeyDown={(event) => {
        const direction = arrowStep(event.key);
        if (direction === 0) return;
        event.preventDefault();
        event.stopPropagation();
        set(axis.moved(value, direction * step * (event.shiftKey ? 10 : 1)), "keys");
      }}
      onBlur={() => dispatch(gestureEnded())}
    >
      <rect className="hold" {...square(cx, cy, HOLD)} />
      <rect className="sign" {...square(cx, cy, SIGN)} />
    </Handle>
  );
}
