import { bandOf, type Rule, type RuleSet, type Test } from "@perceptum/core/rules";
import { memo, type RefObject, useRef } from "react";
import { useStore } from "react-redux";
import { currentRuleSet, useEdit, useRuleSet, useTargets } from "../../hooks/project";
import { useAppDispatch, useAppSelector } from "../../hooks/store";
import { gestureEnded } from "../../model/store/document";
import type { AppState } from "../../model/store/store";
import { ruleChosen } from "../../model/store/view";
import { type PointerAt, usePointerDrag } from "../../ui/usePointerDrag";
import { BoundHandle, type Sides, stretchOf } from "./BoundHandle";

/** The boxes of all rules; the chosen one has handles and is drawn last, on top. */
export function RuleBoxes(sides: Sides) {
  const ruleSet = useRuleSet();
  const chosen = useAppSelector((state) => state.view.rule);
  const ordered = [...ruleSet.rules].sort((a, b) => Number(a.id === chosen) - Number(b.id === chosen));
  return (
    <>
      {ordered.flatMap((rule) =>
        rule.any.map((_, clause) => (
          <ClauseBox key={`${rule.id} ${clause}`} rule={rule} clause={clause} chosen={rule.id === chosen} {...sides} />
        )),
      )}
    </>
  );
}

/** The width of a box's label, in pixels. */
const LABEL = 22;

const ClauseBox = memo(function ClauseBox(props: Sides & { rule: Rule; clause: number; chosen: boolean }) {
  const { rule, clause, chosen, xAxis, yAxis, width, height } = props;
  const targets = useTargets();
  const dispatch = useAppDispatch();
  const box = useRef<SVGGElement>(null);
  const move = useBoxMove(box, props);
  const xs = stretchOf(rule, clause, xAxis);
  const ys = stretchOf(rule, clause, yAxis);
  const top = (1 - ys.to) * height;
  const bottom = (1 - ys.from) * height;
  // Through the seam the box lies in two parts, at both ends of the axis.
  const parts =
    xs.from <= xs.to
      ? [[xs.from, xs.to]]
      : [
          [xs.from, xAxis.end],
          [xAxis.start, xs.to],
        ];
  const code = targets.get(rule.target)?.code ?? "??";
  const pick = () => dispatch(ruleChosen({ rule: rule.id, target: rule.target }));
  const middle = parts.reduce((a, b) => (b[1] - b[0] > a[1] - a[0] ? b : a));
  const names = { rule, clause };
  // Over a narrow box there is no room for the label beside the handle.
  const isNarrow = chosen && !yAxis.scatter && (middle[1] - middle[0]) * width < 2 * LABEL + 9;
  const labelAt = parts[0][0] * width - (isNarrow ? LABEL + 6 : 0);
  return (
    <g ref={box} opacity={rule.on ? 1 : 0.35}>
      {parts.map(([from, to]) => (
        <rect
          key={from}
          x={from * width}
          y={top}
          width={Math.max(1, (to - from) * width)}
          height={Math.max(1, bottom - top)}
          fill="currentColor"
          fillOpacity={chosen ? 0.05 : 0}
          stroke="currentColor"
          strokeWidth={chosen ? 2 : 1}
          strokeDasharray={chosen ? undefined : "4 2"}
          pointerEvents={chosen ? "all" : "none"}
          style={{ cursor: chosen ? "move" : undefined }}
          {...(chosen ? move : {})}
        />
      ))}
      {/* The rules' list beside the field chooses by keyboard; this label is for the pointer. */}
      <g
        transform={`translate(${labelAt} ${Math.max(-13, top - 13)})`}
        onPointerDown={pick}
        style={{ cursor: "pointer" }}
        aria-hidden
      >
        <rect width={LABEL} height="13" fill="var(--ink)" />
        <text
          x={LABEL / 2}
          y="9.7"
          fontSize="9.5"
          fontWeight="700"
          textAnchor="middle"
          fill="var(--sheet)"
          fontFamily="Atkinson Hyperlegible Mono Variable, monospace"
        >
          {code}
        </text>
      </g>
      {chosen && (
        <>
          <BoundHandle
            {...names}
            axis={xAxis}
            end="from"
            cx={xs.from * width}
            cy={(top + bottom) / 2}
            along="x"
            size={width}
          />
          <BoundHandle
            {...names}
            axis={xAxis}
            end="to"
            cx={xs.to * width}
            cy={(top + bottom) / 2}
            along="x"
            size={width}
          />
          {!yAxis.scatter && (
            <BoundHandle
              {...names}
              axis={yAxis}
              end="from"
              cx={((middle[0] + middle[1]) / 2) * width}
              cy={bottom}
              along="y"
              size={height}
            />
          )}
          {!yAxis.scatter && (
            <BoundHandle
              {...names}
              axis={yAxis}
              end="to"
              cx={((middle[0] + middle[1]) / 2) * width}
              cy={top}
              along="y"
              size={height}
            />
          )}
        </>
      )}
    </g>
  );
});

/** Where a drag of a box began, and the rules as they were then. */
interface BoxHeld {
  x: number;
  y: number;
  from: RuleSet;
}

/** Pointer handlers that move a whole box; one drag is one change. */
function useBoxMove(box: RefObject<SVGGElement | null>, place: Sides & { rule: Rule; clause: number }) {
  const { rule, clause, xAxis, yAxis, width, height } = place;
  const edit = useEdit();
  const dispatch = useAppDispatch();
  const store = useStore<AppState>();
  const move = (event: PointerAt, { x, y, from }: BoxHeld) => {
    const { id, all } = (from.rules.find((r) => r.id === rule.id) as Rule).any[clause];
    const bands: Test[] = [];
    for (const [axis, share] of [
      [xAxis, (event.clientX - x) / width],
      [yAxis, (y - event.clientY) / height],
    ] as const) {
      const band = all[bandOf(all, axis.feature)];
      if (band === undefined) continue;
      const moved = (bound: number) => axis.moved(bound, axis.change(share));
      bands.push({
        ...band,
        ...(band.from !== undefined && { from: moved(band.from) }),
        ...(band.to !== undefined && { to: moved(band.to) }),
      });
    }
    edit("moveBox", { ruleSet: from.id, rule: rule.id, clause: id, bands }, "drag");
  };
  const drag = usePointerDrag({ raw: box, move, end: () => dispatch(gestureEnded()) });
  return {
    onPointerDown(event: React.PointerEvent<SVGElement>) {
      event.stopPropagation();
      const from = currentRuleSet(store.getState());
      if (from !== undefined) drag.begin(event, { x: event.clientX, y: event.clientY, from });
    },
    ...drag.handlers,
  };
}
