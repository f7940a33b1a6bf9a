import { hsvToRgb } from "@perceptum/core/colour";
import { type Feature, shownValue } from "@perceptum/core/readings";
import { hueSeam } from "@perceptum/core/teaching";
import { useCallback, useMemo, useRef } from "react";
import styled from "styled-components";
import { usePalette } from "../../app/themeChoice";
import { useMarkedTapes } from "../../state/marked";
import { useSettledProject } from "../../state/project";
import { useCurrentBlock, usePlayhead } from "../../state/source";
import { useAppDispatch, useAppSelector } from "../../state/store";
import { hovered, playheadMoved, tapeChosen } from "../../state/view";
import { Canvas } from "../../ui/Canvas";
import { useSize } from "../../ui/useSize";
import { makeAxis } from "./axis";
import { drawPoints, fieldPoints, nearestPoint, originOf } from "./points";
import { RuleBoxes } from "./RuleBoxes";

/** Room around the plot for ticks and names. */
const INSET = { left: 42, right: 12, top: 16, bottom: 30 };

const Room = styled.div`
  position: relative;
  min-height: 0;
  min-width: 0;
  overflow: hidden;
`;
const Layer = styled.div`
  position: absolute;
  left: 0;
  top: 0;
`;
const Overlay = styled.svg`
  position: absolute;
  left: ${INSET.left}px;
  top: ${INSET.top}px;
  overflow: visible;
  touch-action: none;
`;

/** The colour field: every marked reading in its own colour, and the boxes of the rules. */
export function Field({ x, y }: { x: Feature; y: Feature }) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const plot = {
    width: Math.max(0, width - INSET.left - INSET.right),
    height: Math.max(0, height - INSET.top - INSET.bottom),
  };
  const palette = usePalette();
  const { targets } = useSettledProject();
  const tapes = useMarkedTapes();
  const dispatch = useAppDispatch();
  const seam = useMemo(() => hueSeam(tapes), [tapes]);
  const xAxis = useMemo(() => makeAxis(x, seam), [x, seam]);
  const yAxis = useMemo(() => makeAxis(y, seam), [y, seam]);
  const pressedAt = useRef<[number, number]>([0, 0]);
  const points = useMemo(() => fieldPoints(tapes, targets, xAxis, yAxis), [tapes, targets, xAxis, yAxis]);

  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      const w = width - INSET.left - INSET.right;
      const h = height - INSET.top - INSET.bottom;
      context.translate(INSET.left, INSET.top);
      context.fillStyle = palette.sheet;
      context.fillRect(0, 0, w, h);
      context.font = '10px "Atkinson Hyperlegible Mono Variable", monospace';
      for (const value of xAxis.ticks) {
        const at = xAxis.at(value) * w;
        context.fillStyle = palette.ruleSoft;
        context.fillRect(at, 0, 1, h);
        context.fillStyle = palette.ink2;
        context.textAlign = "center";
        context.fillText(String(Math.round(shownValue(x, value))), at, h + 22);
      }
      for (const value of yAxis.ticks) {
        const at = (1 - yAxis.at(value)) * h;
        context.fillStyle = palette.ruleSoft;
        context.fillRect(0, at, w, 1);
        context.fillStyle = palette.ink2;
        context.textAlign = "right";
        context.fillText(String(Math.round(shownValue(y, value))), -6, at + 3.5);
      }
      context.strokeStyle = palette.rule;
      context.lineWidth = 1;
      context.strokeRect(0.5, 0.5, w - 1, h - 1);
      if (x === "hue") {
        // What a hue looks like: part of the data's own axis.
        for (let px = 0; px < w; px += 2) {
          const [r, g, b] = hsvToRgb(xAxis.value(px / w), 0.75, 0.85).map((v) => Math.round(v * 255));
          context.fillStyle = `rgb(${r} ${g} ${b})`;
          context.fillRect(px, h + 3, 2.2, 5);
        }
      }
      context.save();
      context.translate(-32, h / 2);
      context.rotate(-Math.PI / 2);
      context.textAlign = "center";
      context.fillStyle = palette.ink2;
      context.font = '10.5px "Atkinson Hyperlegible Next Variable", sans-serif';
      context.fillText(yAxis.name, 0, 0);
      context.restore();
      drawPoints(context, points, w, h);
    },
    [points, xAxis, yAxis, x, y, palette, width, height],
  );

  const pointAt = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return nearestPoint(points, event.clientX - box.left, event.clientY - box.top, plot.width, plot.height, 7);
  };
  return (
    <Room ref={ref}>
      <Layer>
        <Canvas
          width={width}
          height={height}
          draw={draw}
          label={`${points.count} marked readings, ${xAxis.name} across, ${yAxis.name} upwards`}
        />
      </Layer>
      <Overlay
        width={plot.width}
        height={plot.height}
        role="group"
        aria-label={`Boxes of the rules, ${x} and ${y}`}
        onPointerMove={(event) => {
          if (event.buttons !== 0) return;
          const n = pointAt(event);
          dispatch(hovered(n < 0 ? null : originOf(points, n)));
        }}
        onPointerLeave={() => dispatch(hovered(null))}
        onPointerDownCapture={(event) => {
          pressedAt.current = [event.clientX, event.clientY];
        }}
        onClick={(event) => {
          // The end of a drag is no click on a point.
          const [px, py] = pressedAt.current;
          if (Math.abs(event.clientX - px) + Math.abs(event.clientY - py) > 3) return;
          const n = pointAt(event as unknown as React.PointerEvent);
          if (n < 0) return;
          const { source, t } = originOf(points, n);
          dispatch(tapeChosen(source));
          dispatch(playheadMoved({ source, t }));
        }}
      >
        <rect width={plot.width} height={plot.height} fill="transparent" />
        <Instants xAt={(v) => xAxis.at(v) * plot.width} yAt={(v) => (1 - yAxis.at(v)) * plot.height} x={x} y={y} />
        <RuleBoxes xAxis={xAxis} yAxis={yAxis} {...plot} />
      </Overlay>
    </Room>
  );
}

/** How many readings before the playhead make its tail. */
const TAIL = 8;

/** The reading at the playhead, a crosshair with a short tail; and a ring on the one that is hovered. */
function Instants({
  x,
  y,
  xAt,
  yAt,
}: {
  x: Feature;
  y: Feature;
  xAt: (value: number) => number;
  yAt: (value: number) => number;
}) {
  const source = useCurrentBlock();
  const t = usePlayhead(source?.source);
  const hover = useAppSelector((state) => state.view.hover);
  const tapes = useMarkedTapes();
  const at = (i: number) => source && { x: xAt(source.block.column(x)[i]), y: yAt(source.block.column(y)[i]) };
  const index = source?.block.indexAt(t) ?? -1;
  const now = index < 0 ? null : at(index);
  const tail = Array.from({ length: TAIL + 1 }, (_, k) => index - TAIL + k)
    .filter((i) => i >= 0)
    .map(at)
    .filter((p) => p !== null && !Number.isNaN(p.x));
  const hoverTape = tapes.find((tape) => tape.head.id === hover?.source);
  const over = hover === null || hoverTape === undefined ? -1 : hoverTape.block.indexAt(hover.t);
  const ring = hoverTape !== undefined &&
    over >= 0 && { x: xAt(hoverTape.block.column(x)[over]), y: yAt(hoverTape.block.column(y)[over]) };
  return (
    <g stroke="currentColor" fill="none" pointerEvents="none">
      {now !== null && !Number.isNaN(now.x) && (
        <>
          <polyline points={tail.map((p) => `${p?.x},${p?.y}`).join(" ")} strokeWidth="1" opacity="0.5" />
          <g transform={`translate(${now.x} ${now.y})`} strokeWidth="1.5">
            <circle r="8" />
            <path d="M-14 0H-5M5 0H14M0 -14V-5M0 5V14" />
          </g>
        </>
      )}
      {ring && !Number.isNaN(ring.x) && <circle cx={ring.x} cy={ring.y} r="6" strokeWidth="2" />}
    </g>
  );
}
