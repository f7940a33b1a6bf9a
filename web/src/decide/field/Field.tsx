import { hsvToRgb } from "@perceptum/core/colour";
import { FEATURE_FACTS, type Feature, shownValue } from "@perceptum/core/readings";
import type { MarkedTape } from "@perceptum/core/teaching";
import { useCallback, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { useSession } from "../../hooks/context";
import { useRuleSetFacts, useSettledProject } from "../../hooks/project";
import { useAppDispatch } from "../../hooks/store";
import { usePublished } from "../../hooks/usePublished";
import { hovered, playheadMoved, tapeChosen } from "../../model/store/view";
import { Button } from "../../ui/Button";
import { Canvas } from "../../ui/Canvas";
import { usePalette } from "../../ui/themeChoice";
import { usePointerDrag } from "../../ui/usePointerDrag";
import { useSize } from "../../ui/useSize";
import { useWheel } from "../../ui/useWheel";
import { makeAxis, type Part, pannedPart, scatterAxis, WHOLE, zoomedPart } from "./axis";
import { drawRegions, INSET, Room, type Rubber, useDrawBox, useRegions } from "./fieldLayers";
import { Instants, References } from "./overlays";
import { drawPixels, drawPoints, fieldPoints, nearestPoint, originOf } from "./points";
import { RuleBoxes } from "./RuleBoxes";

const Layer = styled.div`
  position: absolute;
  left: 0;
  top: 0;
`;

const Corner = styled.div`
  position: absolute;
  right: ${INSET.right}px;
  top: 0;
  display: flex;
  gap: 3px;
  & button { padding-top: 0; padding-bottom: 0; min-height: 20px; }
`;

const Overlay = styled.svg`
  position: absolute;
  left: ${INSET.left}px;
  top: ${INSET.top}px;
  overflow: visible;
  touch-action: none;
`;

/** The colour field: every marked reading in its own colour, and the boxes of the rules or the regions of references. */
export function Field(props: {
  tapes: readonly MarkedTape[];
  /** Where the hue circle is cut. */
  seam: number;
  x: Feature;
  y: Feature | null;
  drawing: boolean;
  onDrawn: () => void;
  choice: React.ReactNode;
}) {
  const { tapes, seam, x, y, drawing, onDrawn, choice } = props;
  const { ref, width, height } = useSize<HTMLDivElement>();
  const plot = {
    width: Math.max(0, width - INSET.left - INSET.right),
    height: Math.max(0, height - INSET.top - INSET.bottom),
  };
  const palette = usePalette();
  const { targets } = useSettledProject();
  const ruleSet = useRuleSetFacts();
  const dispatch = useAppDispatch();
  const [parts, setParts] = useState<{ x: Part; y: Part }>({ x: WHOLE, y: WHOLE });
  const xAxis = useMemo(() => makeAxis(x, seam, parts.x), [x, seam, parts.x]);
  const yAxis = useMemo(() => (y === null ? scatterAxis() : makeAxis(y, seam, parts.y)), [y, seam, parts.y]);
  const pressedAt = useRef<[number, number]>([0, 0]);
  const [rubber, setRubber] = useState<Rubber | null>(null);
  const drawBox = useDrawBox();
  const points = useMemo(() => fieldPoints(tapes, targets, xAxis, yAxis), [tapes, targets, xAxis, yAxis]);
  const regions = useRegions(xAxis, yAxis);
  const looked = usePublished(useSession().framePixels);
  const pixels = looked?.ruleSet === ruleSet.id ? looked.block : null;
  const isWhole = parts.x === WHOLE && parts.y === WHOLE;
  const zoom = (factor: number, ax = 0.5, ay = 0.5) =>
    setParts((p) => {
      const next = { x: zoomedPart(p.x, ax, factor), y: zoomedPart(p.y, ay, factor) };
      return next.x[1] - next.x[0] > 0.999 && next.y[1] - next.y[0] > 0.999 ? { x: WHOLE, y: WHOLE } : next;
    });
  const overlay = useRef<SVGSVGElement>(null);
  useWheel(overlay, (event, box) => zoom(Math.exp(0.0015 * event.deltaY), ...shareIn(event, box)));

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
        context.fillText(tickText(shownValue(x, value)), at, h + 22);
      }
      for (const value of y === null ? [] : yAxis.ticks) {
        const at = (1 - yAxis.at(value)) * h;
        context.fillStyle = palette.ruleSoft;
        context.fillRect(0, at, w, 1);
        context.fillStyle = palette.ink2;
        context.textAlign = "right";
        context.fillText(tickText(shownValue(yAxis.feature, value)), -6, at + 3.5);
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
      if (regions) drawRegions(context, regions, targets, w, h);
      if (pixels !== null) drawPixels(context, pixels, xAxis, yAxis, w, h);
      drawPoints(context, points, w, h);
    },
    [points, pixels, regions, targets, xAxis, yAxis, x, y, palette, width, height],
  );

  const pointAt = (event: React.PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    return nearestPoint(points, event.clientX - box.left, event.clientY - box.top, plot.width, plot.height, 7);
  };
  const drag = usePointerDrag<{ rubber: Rubber } | { x: number; y: number; parts: typeof parts }>({
    move(event, held) {
      const box = overlay.current?.getBoundingClientRect();
      if (box === undefined) return;
      if (!("rubber" in held))
        return setParts({
          x: pannedPart(held.parts.x, (held.x - event.clientX) / box.width),
          y: pannedPart(held.parts.y, (event.clientY - held.y) / box.height),
        });
      const [x1, y1] = shareIn(event, box).map((v) => Math.max(0, Math.min(1, v)));
      held.rubber = { ...held.rubber, x1, y1 };
      setRubber(held.rubber);
    },
    end(held) {
      if (!("rubber" in held)) return;
      const { x0, y0, x1, y1 } = held.rubber;
      const [xs, ys] = [Math.abs(x1 - x0), Math.abs(y1 - y0)];
      if (xs * plot.width > 4 && (ys * plot.height > 4 || yAxis.scatter)) {
        drawBox(xAxis, yAxis, held.rubber);
        onDrawn();
      }
      setRubber(null);
    },
    idle(event) {
      if (event.buttons !== 0) return;
      const n = pointAt(event);
      const origin = n < 0 ? null : originOf(points, n);
      // A pixel is at no time of its own on the tape.
      dispatch(hovered(origin === null || origin.framed ? null : origin));
    },
  });
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
        ref={overlay}
        width={plot.width}
        height={plot.height}
        role="group"
        aria-label={`Boxes of the rules, ${FEATURE_FACTS[x].word}${y === null ? "" : ` and ${FEATURE_FACTS[y].word}`}`}
        style={{
          overflow: isWhole ? "visible" : "hidden",
          cursor: drawing ? "crosshair" : isWhole ? undefined : "grab",
        }}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          if (drawing) {
            const [x0, y0] = shareIn(event, event.currentTarget.getBoundingClientRect());
            drag.begin(event, { rubber: { x0, y0, x1: x0, y1: y0 } });
          } else if (!isWhole) drag.begin(event, { x: event.clientX, y: event.clientY, parts });
        }}
        {...drag.handlers}
        onPointerLeave={() => dispatch(hovered(null))}
        onPointerDownCapture={(event) => {
          pressedAt.current = [event.clientX, event.clientY];
        }}
        onClick={(event) => {
          // The end of a drag is no click on a point.
          const [px, py] = pressedAt.current;
          if (drawing || Math.abs(event.clientX - px) + Math.abs(event.clientY - py) > 3) return;
          const n = pointAt(event as unknown as React.PointerEvent);
          if (n < 0) return;
          const { source, t } = originOf(points, n);
          dispatch(tapeChosen(source));
          dispatch(playheadMoved({ source, t }));
        }}
      >
        <rect width={plot.width} height={plot.height} fill="transparent" />
        <Instants xAt={(v) => xAxis.at(v) * plot.width} yAt={(v) => (1 - yAxis.at(v)) * plot.height} x={x} y={y} />
        {ruleSet.method === "bands" ? (
          <g pointerEvents={drawing ? "none" : undefined}>
            <RuleBoxes xAxis={xAxis} yAxis={yAxis} {...plot} />
          </g>
        ) : (
          <References xAxis={xAxis} yAxis={yAxis} {...plot} />
        )}
        {rubber !== null && (
          <rect
            x={Math.min(rubber.x0, rubber.x1) * plot.width}
            y={yAxis.scatter ? 0 : (1 - Math.max(rubber.y0, rubber.y1)) * plot.height}
            width={Math.abs(rubber.x1 - rubber.x0) * plot.width}
            height={yAxis.scatter ? plot.height : Math.abs(rubber.y1 - rubber.y0) * plot.height}
            fill="none"
            stroke="currentColor"
            strokeDasharray="3 3"
            pointerEvents="none"
          />
        )}
      </Overlay>
      <Corner>
        {choice}
        <ZoomButtons isWhole={isWhole} zoom={zoom} onWhole={() => setParts({ x: WHOLE, y: WHOLE })} />
      </Corner>
    </Room>
  );
}

/** Nearer, farther, and all of a plot. */
function ZoomButtons(props: { isWhole: boolean; zoom: (by: number) => void; onWhole: () => void }) {
  const { isWhole, zoom, onWhole } = props;
  return (
    <>
      <Button $small aria-label="Zoom in" onPress={() => zoom(0.7)}>
        +
      </Button>
      <Button $small aria-label="Zoom out" why={isWhole && "All of it is shown."} onPress={() => zoom(1 / 0.7)}>
        −
      </Button>
      <Button $small why={isWhole && "All of it is shown."} onPress={onWhole}>
        Whole
      </Button>
    </>
  );
}

/** Where in a box a pointer is: shares of its width, and of its height from below. */
const shareIn = (at: { clientX: number; clientY: number }, box: DOMRect): [number, number] => [
  (at.clientX - box.left) / box.width,
  1 - (at.clientY - box.top) / box.height,
];

const tickText = (value: number) => String(Math.round(value * 10) / 10);
