import { hueAhead, wrapHue } from "@perceptum/core/colour";
import { FEATURE_FACTS, type Feature } from "@perceptum/core/readings";

/** One axis of the colour field: a feature laid along 0..1, the hue circle cut open at its seam. */
export interface Axis {
  feature: Feature;
  name: string;
  /** Where a value lies, 0..1; NaN for a hue that is not there. */
  at(value: number): number;
  /** The value that lies there, to a whole shown unit. */
  value(at: number): number;
  /** A move of this share of the axis as a change of value. */
  change(share: number): number;
  /** Value plus change, kept on the axis. */
  moved(value: number, change: number): number;
  ticks: readonly number[];
}

const NAMES: Partial<Record<Feature, string>> = { hue: "hue °", sat: "saturation %", val: "value %" };

export function makeAxis(feature: Feature, seam: number): Axis {
  const { max, unit } = FEATURE_FACTS[feature];
  const name = NAMES[feature] ?? feature;
  if (feature === "hue") {
    return {
      feature,
      name,
      at: (value) => hueAhead(seam, value) / 360,
      value: (at) => wrapHue(Math.round(seam + Math.max(0, Math.min(1, at)) * 360)),
      change: (share) => Math.round(share * 360),
      moved: (value, change) => wrapHue(value + change),
      ticks: Array.from({ length: 12 }, (_, i) => wrapHue(seam + i * 30)),
    };
  }
  const round = (value: number) => (unit === "%" ? Math.round(value * 100) / 100 : Math.round(value));
  return {
    feature,
    name,
    at: (value) => value / max,
    value: (at) => round(Math.max(0, Math.min(1, at)) * max),
    change: (share) => round(share * max),
    moved: (value, change) => round(Math.max(0, Math.min(max, value + change))),
    ticks: [0, 0.25, 0.5, 0.75, 1].map((share) => share * max),
  };
}
