import type { Axis, SweepSummary } from "@perceptum/core/world";
import { HeatmapChart } from "echarts/charts";
import { GridComponent, TooltipComponent, VisualMapComponent } from "echarts/components";
import { init, use } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";
import { usePalette } from "../../ui/themeChoice";
import { axisValue } from "./axisValue";

use([HeatmapChart, GridComponent, TooltipComponent, VisualMapComponent, CanvasRenderer]);

/** The share of runs that hold over the two axes that cost most: darker is worse, with the figure in each field. */
export function HeatMap({ summary, lightName }: { summary: SweepSummary; lightName: (id: string) => string }) {
  const room = useRef<HTMLDivElement>(null);
  const palette = usePalette();
  const varied = summary.axes.filter((a) => a.values.length > 1);
  const [across, down] = [varied[0] ?? summary.axes[0], varied[1] ?? summary.axes[1]];
  const valuesOf = (axis: Axis, values: readonly { value: string | number }[]) =>
    axis === "light" || axis === "start"
      ? values.map((v) => v.value)
      : values.map((v) => v.value).sort((a, b) => Number(a) - Number(b));
  const xs = across ? valuesOf(across.axis, across.values) : [];
  const ys = down ? valuesOf(down.axis, down.values) : [];

  useEffect(() => {
    if (room.current === null || across === undefined || down === undefined) return;
    const chart = init(room.current);
    const text = { color: palette.ink2, fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif', fontSize: 11 };
    const data = xs.flatMap((x, i) =>
      ys.map((y, k) => {
        const here = summary.cells.filter(
          ({ cell }) => cell.conditions[across.axis] === x && cell.conditions[down.axis] === y,
        );
        const runs = here.reduce((n, c) => n + c.runs, 0);
        const passed = here.reduce((n, c) => n + c.passed, 0);
        const share = runs === 0 ? "-" : Math.round((100 * passed) / runs);
        return { value: [i, k, share], label: { color: typeof share === "number" && share < 45 ? "#fff" : "#111" } };
      }),
    );
    chart.setOption({
      animation: false,
      grid: { left: 74, right: 12, top: 8, bottom: 24 },
      tooltip: { formatter: (p: { value: number[] }) => `${p.value[2]} % hold` },
      xAxis: {
        type: "category",
        data: xs.map((x) => axisValue(across.axis, x, lightName)),
        axisLabel: text,
        axisTick: { show: false },
      },
      yAxis: {
        type: "category",
        data: ys.map((y) => axisValue(down.axis, y, lightName)),
        axisLabel: text,
        axisTick: { show: false },
      },
      visualMap: { show: false, min: 0, max: 100, inRange: { color: ["#1b1b1b", "#8a8a8a", "#f6f6f6"] } },
      series: [
        {
          type: "heatmap",
          data,
          label: {
            show: true,
            fontSize: 11,
            formatter: (p: { value: (number | string)[] }) => `${p.value[2]} %`,
          },
          itemStyle: { borderColor: palette.sheet, borderWidth: 1 },
        },
      ],
    });
    return () => chart.dispose();
  });
  return (
    <div
      ref={room}
      role="img"
      aria-label={`Share of runs that hold by ${across?.axis} and ${down?.axis}`}
      style={{ height: 40 + 34 * Math.max(1, ys.length), marginTop: 6, flex: "none" }}
    />
  );
}
