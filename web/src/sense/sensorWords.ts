import { REPORT_KINDS, type Sensor } from "@perceptum/core/readings";

/** `red, green, blue, 0–1023, every 20 ms`. */
export function sensorText({ reports, scale, periodMs, order }: Sensor): string {
  const spans = [...new Set(Object.values(scale).map(([from, to]) => `${from}–${to}`))];
  return [
    REPORT_KINDS.get(reports).name,
    spans.join(" and "),
    order !== undefined && order !== "rgb" ? `sent as ${order}` : "",
    `every ${periodMs} ms`,
  ]
    .filter(Boolean)
    .join(", ");
}
