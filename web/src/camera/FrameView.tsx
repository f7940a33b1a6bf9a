import type { Strip } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { type ReactNode, useCallback, useMemo, useState } from "react";
import styled from "styled-components";
import { Button } from "../ui/Button";
import { Canvas } from "../ui/Canvas";
import { usePointerDrag } from "../ui/usePointerDrag";
import { useSize } from "../ui/useSize";
import { useWheel } from "../ui/useWheel";
import { FramePen } from "./frameDrawing";
import { type FrameLayout, laidIn, type Rect, rectOf, type Zoom, zoomed, zoomedAt } from "./frameLayout";
import type { SeenFrame } from "./useFrame";

const Ground = styled.div`
  position: relative;
  flex: 1;
  min-height: 120px;
  min-width: 0;
  touch-action: none;
  overflow: hidden;
  background: ${({ theme }) => theme.bench};
  & > canvas { position: absolute; inset: 0; }
`;

/** A frame with what was found in it beside. */
export const FrameAndFound = styled.div`
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 236px;
  gap: 12px;
`;

const Zooming = styled.div`
  position: absolute;
  right: 4px;
  bottom: 4px;
  display: flex;
  gap: 3px;
  & button { background: ${({ theme }) => theme.sheet}; }
`;

/** A cross over the pixel that the keys look at, seen while it has the focus. */
const Spot = styled.div`
  position: absolute;
  width: 24px;
  height: 24px;
  pointer-events: none;
  background:
    linear-gradient(#000, #000) center / 1px 100% no-repeat,
    linear-gradient(#000, #000) center / 100% 1px no-repeat,
    linear-gradient(#fff, #fff) center / 3px 100% no-repeat,
    linear-gradient(#fff, #fff) center / 100% 3px no-repeat;
  opacity: 0;
  &:focus-visible { opacity: 1; }
`;

const ARROWS: ReadonlyMap<string, readonly [number, number]> = new Map([
  ["ArrowLeft", [-1, 0]],
  ["ArrowRight", [1, 0]],
  ["ArrowUp", [0, -1]],
  ["ArrowDown", [0, 1]],
]);

type Pixel = { column: number; row: number };

/** A frame, as large as it fits, with what was found in it; pixels under the pointer are told, rectangles can be drawn. */
export function FrameView(props: {
  seen: SeenFrame;
  strip: Strip;
  targets: readonly Target[];
  label: string;
  boxes?: readonly (Rect & { target: string })[];
  chosen?: number;
  fresh?: Rect | null;
  onProbe: (pixel: Pixel | null) => void;
  /** A rectangle was drawn; missing where none can be. */
  onDrawn?: (rect: Rect) => void;
  /** A pixel was pressed. */
  onPress?: (pixel: Pixel) => void;
  /** What lies over it, placed as the frame lies. */
  children?: (laid: FrameLayout, size: { width: number; height: number }) => ReactNode;
}) {
  const { seen, strip, targets, label, boxes, chosen = -1, fresh = null, onProbe, onDrawn, onPress, children } = props;
  const { shown, looked } = seen;
  const { ref, width, height } = useSize<HTMLDivElement>();
  const [spot, setSpot] = useState<Pixel>({ column: shown.width >> 1, row: shown.height >> 1 });
  const [drawing, setDrawing] = useState<Rect | null>(null);
  const [zoom, setZoom] = useState<Zoom | null>(null);
  const fits = useMemo(() => laidIn(width, height, shown), [width, height, shown]);
  const laid = useMemo(() => zoomed(fits, zoom, width, height, shown), [fits, zoom, width, height, shown]);
  const enlarge = (by: number, at = { x: width / 2, y: height / 2 }) =>
    setZoom(zoomedAt(fits, laid, by, at, width, height));
  /** Moves what is shown by so many px of the screen. */
  const shift = (dx: number, dy: number) =>
    setZoom(
      zoom && {
        by: zoom.by,
        column: (width / 2 - laid.left + dx) / laid.scale,
        row: (height / 2 - laid.top + dy) / laid.scale,
      },
    );
  useWheel(ref, (event, box) => {
    if (event.shiftKey) shift(event.deltaX, event.deltaY);
    else enlarge(Math.exp(-event.deltaY / 300), { x: event.clientX - box.left, y: event.clientY - box.top });
  });

  const drawFrame = useCallback(
    (context: CanvasRenderingContext2D) => {
      const pen = new FramePen(context, laid);
      pen.frame(shown);
      pen.outside(strip, shown);
    },
    [shown, strip, laid],
  );
  const drawFound = useCallback(
    (context: CanvasRenderingContext2D) => {
      const pen = new FramePen(context, laid);
      pen.mask(looked.mask, shown);
      pen.blobs(looked, targets);
      if (boxes !== undefined) pen.boxes(boxes, targets, chosen);
      const rect = drawing ?? fresh;
      if (rect !== null) pen.fresh(rect);
    },
    [shown, looked, targets, boxes, chosen, drawing, fresh, laid],
  );

  const pixelAt = ({ clientX, clientY }: { clientX: number; clientY: number }): Pixel => {
    const box = ref.current?.getBoundingClientRect();
    const x = clientX - (box?.left ?? 0);
    const y = clientY - (box?.top ?? 0);
    return { column: Math.floor((x - laid.left) / laid.scale), row: Math.floor((y - laid.top) / laid.scale) };
  };
  const inFrame = ({ column, row }: Pixel) => column >= 0 && row >= 0 && column < shown.width && row < shown.height;
  const press = (pixel: Pixel) => {
    setSpot(pixel);
    onPress?.(pixel);
  };
  /** Looks at the pixel so many columns and rows on, and brings it into sight. */
  const step = (columns: number, rows: number) => {
    const on = (x: number, by: number, most: number) => Math.max(0, Math.min(most - 1, x + by));
    const { column, row } = { column: on(spot.column, columns, shown.width), row: on(spot.row, rows, shown.height) };
    press({ column, row });
    const [x, y] = [laid.left + column * laid.scale, laid.top + row * laid.scale];
    if (zoom !== null && (x < 0 || y < 0 || x > width || y > height)) setZoom({ by: zoom.by, column, row });
  };
  const drag = usePointerDrag<{ from: Pixel; rect?: Rect }>({
    move(event, held) {
      const pixel = pixelAt(event);
      const rect = rectOf(held.from, pixel, shown);
      if (onDrawn === undefined || (rect.width < 2 && rect.height < 2)) return;
      held.rect = rect;
      setDrawing(rect);
    },
    end(held) {
      setDrawing(null);
      if (held.rect !== undefined) onDrawn?.(held.rect);
      else press(held.from);
    },
    idle(event) {
      const pixel = pixelAt(event);
      onProbe(inFrame(pixel) ? pixel : null);
    },
  });
  return (
    <Ground
      ref={ref}
      style={{ cursor: onDrawn === undefined ? "default" : "crosshair" }}
      onPointerDown={(event) => {
        if (event.button !== 0 || (event.target as Element).closest("[role=slider], [role=group]")) return;
        const from = pixelAt(event);
        if (inFrame(from)) drag.begin(event, { from });
      }}
      {...drag.handlers}
      onPointerLeave={() => onProbe(null)}
    >
      <Canvas width={width} height={height} draw={drawFrame} label={label} />
      <Canvas width={width} height={height} draw={drawFound} />
      {children?.(laid, { width, height })}
      <Spot
        role="slider"
        tabIndex={0}
        aria-label="Pixel that is looked at"
        aria-valuemin={0}
        aria-valuemax={shown.width * shown.height - 1}
        aria-valuenow={spot.row * shown.width + spot.column}
        aria-valuetext={`column ${spot.column}, row ${spot.row}`}
        style={{
          left: laid.left + (spot.column + 0.5) * laid.scale - 12,
          top: laid.top + (spot.row + 0.5) * laid.scale - 12,
        }}
        onFocus={(event) => event.currentTarget.matches(":focus-visible") && press(spot)}
        onKeyDown={(event) => {
          const way = ARROWS.get(event.key);
          if (way === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          const px = event.shiftKey ? 10 : 1;
          step(way[0] * px, way[1] * px);
        }}
      />
      <Zooming
        role="group"
        aria-label="Zoom of the frame; arrow keys move it"
        onKeyDown={(event) => {
          const way = ARROWS.get(event.key);
          if (way === undefined || zoom === null) return;
          event.preventDefault();
          shift((way[0] * width) / 8, (way[1] * height) / 8);
        }}
      >
        <Button $small aria-label="Zoom into the frame" onPress={() => enlarge(1.5)}>
          +
        </Button>
        <Button
          $small
          aria-label="Zoom out of the frame"
          why={zoom === null && "All of it is shown."}
          onPress={() => enlarge(1 / 1.5)}
        >
          −
        </Button>
      </Zooming>
    </Ground>
  );
}
