import { FEATURES, type Feature, type Features } from "@perceptum/core/readings";
import type { Sample } from "@perceptum/core/teaching";

/** The features that drawn sensors are taught by. */
export const USED: readonly Feature[] = ["r", "g", "b", "hue", "sat", "val", "light", "chroma"];

/** A reading that was drawn: its true target and its light, both from 1, and its mark. */
export interface DrawnReading {
  truth: number;
  light: number;
  visit: number;
  features: Features;
}

/** Makes a sample of readings that were drawn. */
export function drawnSample(
  { targets, lights }: Pick<Sample, "targets" | "lights">,
  rows: readonly DrawnReading[],
): Sample {
  const columns = new Map(FEATURES.map((f) => [f, Float64Array.from(rows, (row) => row.features[f])]));
  return {
    targets,
    lights,
    features: USED,
    count: rows.length,
    truth: Uint8Array.from(rows, (row) => row.truth),
    light: Uint8Array.from(rows, (row) => row.light),
    visit: Uint32Array.from(rows, (row) => row.visit),
    column: (feature) => columns.get(feature) as Float64Array,
  };
}
