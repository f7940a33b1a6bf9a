import { FEATURE_FACTS, type Feature, shownValue } from "@perceptum/core/readings";
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

/** A drawn value as it is read: a hue lies on its circle. */
const shownBack = (feature: Feature, value: number) => (feature === "hue" ? (value + 720) % 360 : value);

/** Hues that go through 0° without a jump: each as near as it can be to the one before, so below 0° or beyond 360°. */
function unwrapped(hues: readonly number[]): number[] {
  let last = Number.NaN;
  return hues.map((hue) => {
    if (Number.isNaN(hue)) return hue;
    last = Number.isNaN(last) ? hue : hue + 360 * Math.round((last - hue) / 360);
    return last;
  });
}

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
    tooltip: {
      trigger: "axis",
      valueFormatter: (v: unknown) => (typeof v === "number" ? shownBack(sweep.feature, v).toFixed(1) : "–"),
    },
    xAxis: {
      type: "value",
      min: 0,
      max: sweep.heights.at(-1),
      name: "height, mm",
      nameLocation: "middle",
      nameGap: 22,
      ...axis,
    },
    yAxis: {
      type: "value",
      name: `${word} ${unit}`,
      scale: true,
      ...axis,
      ...(sweep.feature === "hue" && {
        interval: 60,
        axisLabel: { ...text, formatter: (v: number) => String((v + 720) % 360) },
      }),
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
        data: (sweep.feature === "hue" ? unwrapped(mean) : mean).map((value, h) => [
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
  };
}
