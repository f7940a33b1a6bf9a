import { FEATURE_FACTS, type Feature, type ReadingBlock } from "@perceptum/core/readings";
import { useMarkedTapes } from "../../hooks/marked";
import { useRuleSet, useTargets } from "../../hooks/project";
import { useCurrentBlock, usePlayhead } from "../../hooks/source";
import { useAppSelector } from "../../hooks/store";
import type { Axis } from "./axis";

/** The references as diamonds with their target's letters. */
export function References({
  xAxis,
  yAxis,
  width,
  height,
}: {
  xAxis: Axis;
  yAxis: Axis;
  width: number;
  height: number;
}) {
  const { references } = useRuleSet().nearest;
  const targets = useTargets();
  const valueAlong = (reference: (typeof references)[number], axis: Axis) =>
    reference[axis.feature as "hue" | "sat" | "val" | "reflected"];
  return (
    <g pointerEvents="none" stroke="currentColor">
      {references.map((reference, i) => {
        const [x, y] = [valueAlong(reference, xAxis), yAxis.scatter ? 0.5 : valueAlong(reference, yAxis)];
        if (x === undefined || y === undefined) return null;
        const at = [xAxis.at(x) * width, yAxis.scatter ? height / 2 : (1 - yAxis.at(y)) * height];
        return (
          <g key={`${i} ${reference.target}`} transform={`translate(${at[0]} ${at[1]})`}>
            <path d="M0 -6L6 0L0 6L-6 0Z" fill="var(--sheet)" strokeWidth="1.5" />
            <text x="9" y="3.5" fontSize="10" fontWeight="700" stroke="none" fill="currentColor">
              {targets.get(reference.target)?.code}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** How many readings before the playhead make its tail. */
const TAIL = 8;

/** The reading at the playhead, a crosshair with a short tail; and a ring on the one that is hovered. */
export function Instants({
  x,
  y,
  xAt,
  yAt,
}: {
  x: Feature;
  y: Feature | null;
  xAt: (value: number) => number;
  yAt: (value: number) => number;
}) {
  const source = useCurrentBlock();
  const t = usePlayhead(source?.source);
  const hover = useAppSelector((state) => state.view.hover);
  const tapes = useMarkedTapes();
  const place = (block: ReadingBlock, i: number) => ({
    x: xAt(block.column(x)[i]),
    y: y === null ? yAt(0.5 * FEATURE_FACTS.code.max) : yAt(block.column(y)[i]),
  });
  const at = (i: number) => source && place(source.block, i);
  const index = source?.block.indexAt(t) ?? -1;
  const now = index < 0 ? null : at(index);
  const tail = Array.from({ length: TAIL + 1 }, (_, k) => index - TAIL + k)
    .filter((i) => i >= 0)
    .map(at)
    .filter((p) => p !== null && !Number.isNaN(p.x));
  const hoverTape = tapes.find((tape) => tape.head.id === hover?.source);
  const over = hover === null || hoverTape === undefined ? -1 : hoverTape.block.indexAt(hover.t);
  const ring = hoverTape !== undefined && over >= 0 && place(hoverTape.block, over);
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
