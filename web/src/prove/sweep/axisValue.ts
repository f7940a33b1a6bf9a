import type { Axis } from "@perceptum/core/world";

/** A value of an axis as it is read. */
export function axisValue(axis: Axis, value: string | number, lightName: (id: string) => string): string {
  if (axis === "light") return lightName(String(value));
  if (axis === "start") return String(value);
  return axis === "height" ? `${String(value).replace("-", "−")} mm` : `× ${value}`;
}
