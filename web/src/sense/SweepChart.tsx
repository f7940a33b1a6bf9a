import { FEATURE_FACTS, shownValue } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import type { HeightSweep } from "@perceptum/core/world";
import { LineChart } from "echarts/charts";
import { GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent } from "echarts/components";
import { use } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useMemo } from "react";
import { Chart, chartText } from "../ui/Chart";
import type { Palette } from "../ui/theme";
import { usePalette } from "../ui/themeChoice";

use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent, CanvasRenderer]);

interface Shown {
  sweep: HeightSweep;
  targets: readonly Target[];
  /** The height of the stand in mm. */
  at: number;
}

/** The lines of a height sweep: each thing in its paint, named at its end; the usable heights shaded, the stand's height dashed. */
export function SweepChart({ sweep, targets, at }: Shown) {
  const palette = usePalette();
  const option = useMemo(() => drawn({ sweep, targets, at }, palette), [sweep, targets, at, palette]);
  const names = sweep.things.map(({ under }) => nameOf(targets, under)).join(", ");
  const usable = sweep.usable ? `; usable from ${sweep.usable[0]} to ${sweep.usable[1]} mm` : "";
  const label = `${FEATURE_FACTS[sweep.feature].word} against height for ${names}${usable}`;
  return <Chart option={option} label={label} style={{ height: "100%" }} />;
}

const nameOf = (targets: readonly Target[], id: string) => targets.find((t) => t.id === id)?.name ?? id;

function drawn({ sweep, targets, at }: Shown, palette: Palette) {
  const text = chartText(palette);
  const axis = {
    axisLine: { lineStyle: { color: palette.rule } },
    axisLabel: text,
    nameTextStyle: text,
    splitLine: { lineStyle: { color: palette.ruleSoft } },
  };
  const { unit, word } = FEATURE_FACTS[sweep.feature];
  return {
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
        name: nameOf(targets, under),
        showSymbol: false,
        color: target?.paint ?? palette.ink,
        lineStyle: { width: 2.5, type: target?.kind === "background" ? "dashed" : "solid" },
        endLabel: { show: true, formatter: target?.code ?? "", color: palette.ink, fontFamily: text.fontFamily },
        data: mean.map((value, h) => [sweep.heights[h], Number.isNaN(value) ? null : shownValue(sweep.feature, value)]),
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
  };
}
