import { FEATURE_FACTS, shownValue } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import type { HeightSweep } from "@perceptum/core/world";
import { LineChart } from "echarts/charts";
import { GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent } from "echarts/components";
import { init, use } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useEffect, useMemo, useRef } from "react";
import { usePalette } from "../ui/themeChoice";

use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent, CanvasRenderer]);

/** The lines of a height sweep: each thing in its paint, named at its end; the usable heights shaded, the stand's height dashed. */
export function SweepChart({ sweep, targets, at }: { sweep: HeightSweep; targets: readonly Target[]; at: number }) {
  const room = useRef<HTMLDivElement>(null);
  const palette = usePalette();
  const names = useMemo(
    () => sweep.things.map(({ under }) => targets.find((t) => t.id === under)?.name ?? under),
    [sweep, targets],
  );
  useEffect(() => {
    if (room.current === null) return;
    const chart = init(room.current);
    const text = { color: palette.ink2, fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif', fontSize: 11 };
    const axis = {
      axisLine: { lineStyle: { color: palette.rule } },
      axisLabel: text,
      nameTextStyle: text,
      splitLine: { lineStyle: { color: palette.ruleSoft } },
    };
    const { unit, word } = FEATURE_FACTS[sweep.feature];
    chart.setOption({
      animation: false,
      grid: { left: 46, right: 84, top: 28, bottom: 36 },
      tooltip: { trigger: "axis", valueFormatter: (v: unknown) => (typeof v === "number" ? v.toFixed(1) : "–") },
      xAxis: { type: "value", min: 0, max: 60, name: "height, mm", nameLocation: "middle", nameGap: 22, ...axis },
      yAxis: {
        type: "value",
        name: `${word} ${unit}`,
        scale: true,
        ...(sweep.feature === "hue" && { min: 0, max: 360, interval: 60 }),
        ...axis,
      },
      series: sweep.things.map(({ under, mean }, i) => {
        const target = targets.find((t) => t.id === under);
        return {
          type: "line",
          name: names[i],
          showSymbol: false,
          color: target?.paint ?? palette.ink,
          lineStyle: { width: 2.5, type: target?.kind === "background" ? "dashed" : "solid" },
          endLabel: { show: true, formatter: target?.code ?? "", color: palette.ink, fontFamily: text.fontFamily },
          data: mean.map((value, h) => [
            sweep.heights[h],
            Number.isNaN(value) ? null : shownValue(sweep.feature, value),
          ]),
          ...(i === 0 && {
            markArea: {
              silent: true,
              itemStyle: { color: palette.pressed, opacity: 0.6 },
              data: sweep.usable ? [[{ xAxis: sweep.usable[0] }, { xAxis: sweep.usable[1] }]] : [],
            },
            markLine: {
              silent: true,
              symbol: "none",
              label: { show: false },
              lineStyle: { color: palette.ink, type: "dashed" },
              data: [{ xAxis: at }],
            },
          }),
        };
      }),
    });
    return () => chart.dispose();
  }, [sweep, targets, names, at, palette]);
  return (
    <div
      ref={room}
      style={{ height: "100%" }}
      role="img"
      aria-label={`${FEATURE_FACTS[sweep.feature].word} against height for ${names.join(", ")}${sweep.usable ? `; usable from ${sweep.usable[0]} to ${sweep.usable[1]} mm` : ""}`}
    />
  );
}
