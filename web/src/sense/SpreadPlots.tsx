import type { Target } from "@perceptum/core/project";
import { FEATURE_FACTS, type Feature, shownValue } from "@perceptum/core/readings";
import { spreadOf, valuesOfTarget } from "@perceptum/core/teaching";
import { useCallback, useMemo } from "react";
import styled from "styled-components";
import { usePalette } from "../app/themeChoice";
import { useMarkedTapes } from "../state/marked";
import { useProject } from "../state/project";
import { useAppSelector } from "../state/store";
import { Canvas } from "../ui/Canvas";
import { Empty, Head, Title } from "../ui/layout";
import { useSize } from "../ui/useSize";

const Three = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 18px;
  min-height: 0;
`;
const FEATURES_SHOWN = ["hue", "sat", "val"] as const;
const NAMES: Record<(typeof FEATURES_SHOWN)[number], string> = { hue: "hue °", sat: "saturation %", val: "value %" };
/** At most this many dots a target; more would only make ink. */
const MOST_DOTS = 160;
const ROW = 28;
const TOP = 20;

/** Every target and background in hue, saturation and value: dots, the middle 90 %, the mean. */
export function SpreadPlots() {
  const { targets } = useProject();
  const tapes = useMarkedTapes();
  const anything = tapes.some((tape) => tape.head.marks.length > 0);
  return (
    <>
      <Head>
        <Title>How the targets spread</Title>
      </Head>
      {anything ? (
        <Three>
          {FEATURES_SHOWN.map((feature) => (
            <SpreadPlot key={feature} feature={feature} targets={targets} />
          ))}
        </Three>
      ) : (
        <Empty>Nothing is marked yet, so there is nothing to compare.</Empty>
      )}
    </>
  );
}

function SpreadPlot({ feature, targets }: { feature: (typeof FEATURES_SHOWN)[number]; targets: readonly Target[] }) {
  const tapes = useMarkedTapes();
  const palette = usePalette();
  const chosen = useAppSelector((state) => state.view.target);
  const { ref, width } = useSize<HTMLDivElement>();
  const height = TOP + targets.length * ROW + 16;

  const rows = useMemo(
    () =>
      targets.map((target, i) => {
        const values = tapes.flatMap((tape) => [...valuesOfTarget(tape.block.column(feature), tape.truth, i + 1)]);
        const all = Float64Array.from(values);
        const every = Math.max(1, Math.floor(all.length / MOST_DOTS));
        return { target, spread: spreadOf(feature, all), dots: all.filter((_, k) => k % every === 0) };
      }),
    [tapes, targets, feature],
  );

  const draw = useCallback(
    (context: CanvasRenderingContext2D) => {
      const { max } = FEATURE_FACTS[feature];
      const left = 28;
      const right = width - 6;
      const x = (v: number) => left + (Math.max(0, Math.min(max, v)) / max) * (right - left);
      context.font = '650 11px "Atkinson Hyperlegible Next Variable", sans-serif';
      context.fillStyle = palette.ink2;
      context.fillText(NAMES[feature], left, 11);
      rows.forEach(({ target, spread, dots }, i) => {
        const y = TOP + i * ROW + ROW / 2;
        if (target.id === chosen) {
          context.fillStyle = palette.panel;
          context.fillRect(0, y - ROW / 2, width, ROW);
        }
        context.fillStyle = palette.ink2;
        context.font = '9.5px "Atkinson Hyperlegible Mono Variable", monospace';
        context.fillText(target.code, 4, y + 3);
        context.fillStyle = palette.ruleSoft;
        context.fillRect(left, y + ROW / 2 - 1, right - left, 1);
        if (spread === undefined) {
          context.fillStyle = palette.ink3;
          context.fillText("not marked, or grey", left + 4, y + 3);
          return;
        }
        context.fillStyle = target.paint;
        context.strokeStyle = "rgb(0 0 0 / 40%)";
        context.lineWidth = 0.6;
        dots.forEach((value, k) => {
          // A fixed scatter, so that the dots do not dance when the picture is drawn again.
          const dy = (((k * 7919) % 97) / 97 - 0.5) * 9;
          context.beginPath();
          if (target.kind === "background") context.rect(x(value) - 1.6, y + dy - 1.6, 3.2, 3.2);
          else context.arc(x(value), y + dy, 1.9, 0, 7);
          context.fill();
          context.stroke();
        });
        drawRange(context, palette.ink, feature, spread.low, spread.high, x, y + 8, [left, right]);
        context.fillStyle = palette.ink;
        context.fillRect(x(spread.mean) - 0.75, y + 5.5, 1.5, 5);
      });
      context.fillStyle = palette.ink3;
      context.font = '9.5px "Atkinson Hyperlegible Mono Variable", monospace';
      for (const share of [0, 0.25, 0.5, 0.75, 1]) {
        const text = String(Math.round(shownValue(feature as Feature, max * share)));
        context.textAlign = share === 1 ? "right" : share === 0 ? "left" : "center";
        context.fillText(text, left + share * (right - left), height - 4);
      }
      context.textAlign = "left";
    },
    [rows, feature, width, height, palette, chosen],
  );
  return (
    <div ref={ref}>
      <Canvas
        width={width}
        height={height}
        draw={draw}
        label={`Spread of ${NAMES[feature]}: ${rows.map(({ target, spread }) => `${target.name} ${spread ? Math.round(shownValue(feature, spread.mean)) : "none"}`).join(", ")}`}
      />
    </div>
  );
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
