/** The numbers that a rule may test, derived from a reading as far as its report allows. */
export const FEATURES = ["r", "g", "b", "clear", "hue", "sat", "val", "light", "chroma", "reflected", "code"] as const;
export type Feature = (typeof FEATURES)[number];

/**
 * What each feature is: `span` is what a margin is measured against, `max` the end of its range, `unit` how
 * screens and phrases write it, `step` one press of an arrow key, `word` its name in sentences.
 */
export const FEATURE_FACTS: Record<
  Feature,
  { span: number; max: number; unit: "%" | "°" | ""; step: number; word: string }
> = {
  r: { span: 1, max: 1, unit: "%", step: 0.01, word: "red" },
  g: { span: 1, max: 1, unit: "%", step: 0.01, word: "green" },
  b: { span: 1, max: 1, unit: "%", step: 0.01, word: "blue" },
  clear: { span: 1, max: 1, unit: "%", step: 0.01, word: "clear" },
  hue: { span: 180, max: 360, unit: "°", step: 1, word: "hue" },
  sat: { span: 1, max: 1, unit: "%", step: 0.01, word: "saturation" },
  val: { span: 1, max: 1, unit: "%", step: 0.01, word: "value" },
  light: { span: 100, max: 100, unit: "", step: 1, word: "lightness" },
  chroma: { span: 100, max: 134, unit: "", step: 1, word: "chroma" },
  reflected: { span: 1, max: 1, unit: "%", step: 0.01, word: "reflected light" },
  code: { span: 1, max: 999, unit: "", step: 1, word: "code" },
};

/** A feature's value as screens write it: percent for fractions, else the number itself. */
export function shownValue(feature: Feature, value: number): number {
  return FEATURE_FACTS[feature].unit === "%" ? value * 100 : value;
}

/** A feature's value as a whole number to show; of a hue that is nearly once round, 0. */
export function wholeShown(feature: Feature, value: number): number {
  const whole = Math.round(shownValue(feature, value));
  return feature === "hue" && whole === 360 ? 0 : whole;
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

/** A feature's value with its unit, as exact as it is kept: `29 %`, `354°`, `12`. */
export function figure(feature: Feature, value: number): string {
  const { unit } = FEATURE_FACTS[feature];
  return `${exactShown(feature, value)}${unit === "%" ? " %" : unit}`;
}
