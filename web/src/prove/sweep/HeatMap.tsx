import type { Axis, SweepSummary } from "@perceptum/core/world";
import { HeatmapChart } from "echarts/charts";
import { GridComponent, TooltipComponent, VisualMapComponent } from "echarts/components";
import { use } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useMemo } from "react";
import { Chart, chartText } from "../../ui/Chart";
import { Unseen } from "../../ui/Status";
import type { Palette } from "../../ui/theme";
import { usePalette } from "../../ui/themeChoice";
import { axisValue } from "./axisValue";

use([HeatmapChart, GridComponent, TooltipComponent, VisualMapComponent, CanvasRenderer]);

type NameOfLight = (id: string) => string;

/** The share of runs that hold over the two axes that cost most: darker is worse, with the figure in each field. */
export function HeatMap({ summary, lightName }: { summary: SweepSummary; lightName: NameOfLight }) {
  const palette = usePalette();
  const { option, names, share, label } = useMemo(
    () => drawn(summary, lightName, palette),
    [summary, lightName, palette],
  );
  const [across, down] = names;
  return (
    <>
      <Chart option={option} label={label} style={{ height: 40 + 34 * down.length, marginTop: 6, flex: "none" }} />
      <Unseen as="table" aria-label={`${label}, as a table`}>
        <thead>
          <tr>
            <td />
            {across.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {down.map((row, k) => (
            <tr key={row}>
              <th scope="row">{row}</th>
              {across.map((name, i) => (
                <td key={name}>{share(i, k)} %</td>
              ))}
            </tr>
          ))}
        </tbody>
      </Unseen>
    </>
  );
}

const valuesOf = ({ axis, values }: SweepSummary["axes"][number]) => {
  const all = values.map((v) => v.value);
  return axis === "light" || axis === "start" ? all : all.sort((a, b) => Number(a) - Number(b));
};

function drawn(summary: SweepSummary, lightName: NameOfLight, palette: Palette) {
  const varied = summary.axes.filter((a) => a.values.length > 1);
  // Where fewer than two were varied, others make up for it, in one row.
  const [across, down] = [...new Set([...varied, ...summary.axes])];
  const [xs, ys] = [valuesOf(across), valuesOf(down)];
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
  const text = chartText(palette);
  const namesOf = (axis: Axis, values: readonly (string | number)[]) =>
    values.map((value) => axisValue(axis, value, lightName));
  const named = (axis: Axis, values: readonly (string | number)[]) => ({
    type: "category",
    data: namesOf(axis, values),
    axisLabel: text,
    axisTick: { show: false },
  });
  const option = {
    grid: { left: 74, right: 12, top: 8, bottom: 24 },
    tooltip: { formatter: (p: { value: number[] }) => `${p.value[2]} % hold` },
    xAxis: named(across.axis, xs),
    yAxis: named(down.axis, ys),
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
  };
  const label = `Share of runs that hold by ${across.axis} and ${down.axis}`;
  const names = [namesOf(across.axis, xs), namesOf(down.axis, ys)] as const;
  const share = (i: number, k: number) => data[i * ys.length + k]?.value[2];
  return { option, label, names, share };
}
