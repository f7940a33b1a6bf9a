import { type EChartsCoreOption, type EChartsType, init } from "echarts/core";
import { type CSSProperties, useEffect, useRef } from "react";
import type { Palette } from "./theme";

/** How words in a chart look; the page's style does not reach them. */
export const chartText = (palette: Palette) => ({
  color: palette.ink2,
  fontFamily: '"Atkinson Hyperlegible Next Variable", sans-serif',
  fontSize: 11,
});

/** A chart: made once, as large as its room, and drawn anew only when it is given another option. */
export function Chart({ option, label, style }: { option: EChartsCoreOption; label: string; style: CSSProperties }) {
  const room = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType>(undefined);
  useEffect(() => {
    if (room.current === null) return;
    const made = init(room.current);
    chart.current = made;
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(room.current);
    return () => {
      observer.disconnect();
      made.dispose();
    };
  }, []);
  useEffect(() => {
    chart.current?.setOption({ animation: false, ...option }, { notMerge: true });
  }, [option]);
  return <div ref={room} role="img" aria-label={label} style={style} />;
}
