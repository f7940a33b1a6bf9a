import { FEATURE_FACTS, type Feature, shownValue, wholeShown } from "@perceptum/core/readings";
import { useCallback, useMemo } from "react";
import styled from "styled-components";
import { useAppDispatch, useAppSelector } from "../hooks/store";
import { instantOf } from "../model/judging/instantOf";
import { watchingChosen } from "../model/store/sense";
import { hovered, playheadMoved, tapeChosen } from "../model/store/view";
import { Canvas } from "../ui/Canvas";
import { usePalette } from "../ui/themeChoice";
import { useSize } from "../ui/useSize";
import type { Group } from "./spreadGroups";

const Holder = styled.div`
  position: relative;
`;

/** At most this many dots a row; more would only make ink. */
const MOST_DOTS = 160;

const TOP = 20;

export function SpreadPlot({ feature, groups }: { feature: Feature; groups: readonly Group[] }) {
  const palette = usePalette();
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.view.target);
  const hover = useAppSelector((state) => state.view.hover);
  const { ref, width } = useSize<HTMLDivElement>();
  const row = groups.length > 10 ? 22 : 28;
  const left = groups.some((g) => g.code.length > 2) ? 38 : 28;
  const right = width - 6;
  const { max } = FEATURE_FACTS[feature];
  const height = TOP + groups.length * row + 16;
  const x = useCallback(
    (v: number) => left + (Math.max(0, Math.min(max, v)) / max) * (right - left),
    [left, right, max],
  );

  const rows = useMemo(
    () =>
      groups.map((group) => {
        const every = Math.max(1, Math.floor(group.picked.length / MOST_DOTS));
        const dots = group.picked.filter((_, k) => k % every === 0);
        return { group, spread: group.spread(feature), dots };
      }),
    [groups, feature],
  );
  const dotAt = useCallback(
    (i: number, k: number) => {
      const { tape, index } = rows[i].dots[k];
      // A fixed scatter, so that the dots do not dance when the picture is drawn again.
      return {
        x: x(tape.block.column(feature)[index]),
        y: TOP + i * row + row / 2 + (((k * 7919) % 97) / 97 - 0.5) * 9,
      };
    },
    [rows, feature, row, x],
  );

  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      const mono = '9.5px "Atkinson Hyperlegible Mono Variable", monospace';
      context.font = '650 11px "Atkinson Hyperlegible Next Variable", sans-serif';
      context.fillStyle = palette.ink2;
      context.fillText(`${FEATURE_FACTS[feature].word} ${FEATURE_FACTS[feature].unit}`, left, 11);
      rows.forEach(({ group: { target, code }, spread, dots }, i) => {
        const y = TOP + i * row + row / 2;
        if (target.id === chosen) {
          context.fillStyle = palette.panel;
          context.fillRect(0, y - row / 2, width, row);
        }
        context.fillStyle = palette.ink2;
        context.font = mono;
        context.fillText(code, 4, y + 3);
        context.fillStyle = palette.ruleSoft;
        context.fillRect(left, y + row / 2 - 1, right - left, 1);
        if (spread === undefined) {
          context.fillStyle = palette.ink3;
          context.fillText("not marked, or grey", left + 4, y + 3);
          return;
        }
        context.fillStyle = target.paint;
        context.strokeStyle = "rgb(0 0 0 / 40%)";
        context.lineWidth = 0.6;
        dots.forEach((_, k) => {
          const at = dotAt(i, k);
          if (Number.isNaN(at.x)) return;
          context.beginPath();
          if (target.kind === "background") context.rect(at.x - 1.6, at.y - 1.6, 3.2, 3.2);
          else context.arc(at.x, at.y, 1.9, 0, 7);
          context.fill();
          context.stroke();
        });
        drawRange(context, palette.ink, feature, spread.low, spread.high, x, y + 8, [left, right]);
        context.fillStyle = palette.ink;
        context.fillRect(x(spread.mean) - 0.75, y + 5.5, 1.5, 5);
      });
      context.fillStyle = palette.ink3;
      context.font = mono;
      for (const share of [0, 0.25, 0.5, 0.75, 1]) {
        const text = String(Math.round(shownValue(feature, max * share)));
        context.textAlign = share === 1 ? "right" : share === 0 ? "left" : "center";
        context.fillText(text, left + share * (right - left), height - 4);
      }
      context.textAlign = "left";
    },
    [rows, feature, width, height, palette, chosen, row, left, right, max, x, dotAt],
  );

  /** The dot nearest to the pointer, if one is near. */
  const dotUnder = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [px, py] = [event.clientX - box.left, event.clientY - box.top];
    const i = Math.floor((py - TOP) / row);
    if (i < 0 || i >= rows.length) return undefined;
    let best: number | undefined;
    let least = 7;
    rows[i].dots.forEach((_, k) => {
      const at = dotAt(i, k);
      const d = Math.hypot(at.x - px, at.y - py);
      if (d < least) [least, best] = [d, k];
    });
    const origin = best === undefined ? undefined : rows[i].dots[best];
    return origin && instantOf(origin.tape, origin.index);
  };
  const over = hover === null ? undefined : groups[0] && placeOfHover(rows, hover, feature);
  return (
    <Holder
      ref={ref}
      onPointerMove={(event) => {
        const dot = dotUnder(event);
        dispatch(hovered(dot === undefined || dot.framed ? null : dot));
      }}
      onPointerLeave={() => dispatch(hovered(null))}
      onPointerUp={(event) => {
        const at = dotUnder(event);
        if (at === undefined) return;
        dispatch(watchingChosen("tape"));
        dispatch(tapeChosen(at.source));
        dispatch(playheadMoved(at));
      }}
    >
      <Canvas
        width={width}
        height={height}
        draw={draw}
        label={`Spread of ${FEATURE_FACTS[feature].word}: ${rows.map(({ group, spread }) => `${group.name} ${spread ? wholeShown(feature, spread.mean) : "none"}`).join(", ")}`}
      />
      {over && (
        <i
          style={{
            position: "absolute",
            left: x(over.value) - 5,
            top: TOP + over.row * row + row / 2 - 5,
            width: 10,
            height: 10,
            borderRadius: "50%",
            border: "2px solid var(--ink)",
            pointerEvents: "none",
          }}
        />
      )}
    </Holder>
  );
}

/** In which row, and at which value, the hovered instant lies. */
function placeOfHover(rows: readonly { group: Group }[], hover: { source: string; t: number }, feature: Feature) {
  const tape = rows.flatMap(({ group }) => group.picked.slice(0, 1)).find((p) => p.tape.head.id === hover.source)?.tape;
  if (tape === undefined) return undefined;
  const index = tape.block.indexAt(hover.t);
  const mark = tape.head.marks[tape.mark[index] - 1];
  const row = rows.findIndex(
    ({ group }) => group.target.id === mark?.target && (group.light === undefined || group.light === mark.light),
  );
  const value = tape.block.column(feature)[index];
  return row < 0 || Number.isNaN(value) ? undefined : { row, value };
}

/** The middle 90 %; for hue it may run through 0 and then lies at both ends. */
function drawRange(
  context: CanvasRenderingContext2D,
  ink: string,
  feature: Feature,
  low: number,
  high: number,
  x: (v: number) => number,
  y: number,
  [left, right]: [number, number],
) {
  context.fillStyle = ink;
  if (feature === "hue" && low > high) {
    context.fillRect(left, y, x(high) - left, 1);
    context.fillRect(x(low), y, right - x(low), 1);
  } else context.fillRect(x(low), y, Math.max(1, x(high) - x(low)), 1);
}
