import { hsvToRgb } from "@perceptum/core/colour";
import type { TargetId } from "@perceptum/core/names";
import { featuresOf } from "@perceptum/core/readings";
import { NearestRules, type RuleSet } from "@perceptum/core/rules";
import type { Axis } from "./axis";

/** Cells of a field with the target that a reading there would be taken for. */
export interface Regions {
  columns: number;
  rows: number;
  /** Row by row from the top; null where it would be unknown. */
  labels: (TargetId | null)[];
}

const COLUMNS = 96;
const ROWS = 40;
const LAID = ["hue", "sat", "val"] as const;

/**
 * Which region goes to whom by the nearest method; what lies along neither axis is taken as the mean of the references.
 * Undefined for axes that the method does not measure by.
 */
export function regionsOf(ruleSet: RuleSet, xAxis: Axis, yAxis: Axis): Regions | undefined {
  const axes = [xAxis, yAxis];
  const one = yAxis.scatter;
  const laid = (axis: Axis) => (LAID as readonly string[]).includes(axis.feature);
  if (one ? xAxis.feature !== "reflected" && xAxis.feature !== "hue" : !axes.every(laid)) return undefined;
  const mean = (feature: "sat" | "val", otherwise: number) => {
    const values = ruleSet.nearest.references.flatMap((r) => r[feature] ?? []);
    return values.length === 0 ? otherwise : values.reduce((a, b) => a + b, 0) / values.length;
  };
  const [sat, val] = [mean("sat", 0.8), mean("val", 0.6)];
  const none = Number.NaN;
  const empty = featuresOf(none, none, none);
  const nearest = new NearestRules(ruleSet.nearest);
  const labels: Regions["labels"] = [];
  for (let row = 0; row < ROWS; row++) {
    for (let column = 0; column < COLUMNS; column++) {
      const at: Record<string, number> = {
        [xAxis.feature]: xAxis.value((column + 0.5) / COLUMNS),
        ...(!one && { [yAxis.feature]: yAxis.value(1 - (row + 0.5) / ROWS) }),
      };
      const features = one ? { ...empty, ...at } : featuresOf(...hsvToRgb(at.hue ?? 0, at.sat ?? sat, at.val ?? val));
      const label = nearest.classify(features);
      labels.push(label === "unknown" ? null : label);
    }
  }
  return { columns: COLUMNS, rows: ROWS, labels };
}
