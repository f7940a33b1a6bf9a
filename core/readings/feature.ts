/** The numbers that a rule may test, as far as the reports of this version give them. */
export const FEATURES = ["r", "g", "b", "hue", "sat", "val", "light", "chroma"] as const;
export type Feature = (typeof FEATURES)[number];

/**
 * What each feature is: `span` is what a margin is measured against, `max` the end of its range, `unit` how
 * screens and phrases write it, `step` one press of an arrow key.
 */
export const FEATURE_FACTS: Record<Feature, { span: number; max: number; unit: "%" | "°" | ""; step: number }> = {
  r: { span: 1, max: 1, unit: "%", step: 0.01 },
  g: { span: 1, max: 1, unit: "%", step: 0.01 },
  b: { span: 1, max: 1, unit: "%", step: 0.01 },
  hue: { span: 180, max: 360, unit: "°", step: 1 },
  sat: { span: 1, max: 1, unit: "%", step: 0.01 },
  val: { span: 1, max: 1, unit: "%", step: 0.01 },
  light: { span: 100, max: 100, unit: "", step: 1 },
  chroma: { span: 100, max: 134, unit: "", step: 1 },
};

/** A feature's value as screens write it: percent for fractions, else the number itself. */
export function shownValue(feature: Feature, value: number): number {
  return FEATURE_FACTS[feature].unit === "%" ? value * 100 : value;
}

/** The value that a shown number stands for. Dividing by 100 (not multiplying by 0.01) keeps 0.29 exact. */
export function valueShownAs(feature: Feature, shown: number): number {
  return FEATURE_FACTS[feature].unit === "%" ? shown / 100 : shown;
}

/** The shortest decimal that `valueShownAs` turns back into exactly `value`. */
export function exactShown(feature: Feature, value: number): string {
  const shown = shownValue(feature, value);
  for (let digits = 1; digits < 17; digits++) {
    const text = String(Number(shown.toPrecision(digits)));
    if (valueShownAs(feature, Number(text)) === value) return text;
  }
  return String(shown);
}
