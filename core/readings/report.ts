import { chromaOf, hueOf, hueWithin, lightOf, satOf, valOf } from "../colour";
import { FEATURES, type Feature } from "./feature";

/** Every name that a raw channel has in files. */
export const CHANNELS = ["r", "g", "b", "c", "h", "s", "v", "hue", "reflected", "code"] as const;
export type Channel = (typeof CHANNELS)[number];

/** The names of each channel's columns in tables, and whether it goes round: a hue beyond its end begins anew. */
export const CHANNEL_FACTS: Readonly<Record<Channel, { words: readonly string[]; goesRound?: true }>> = {
  r: { words: ["r", "red"] },
  g: { words: ["g", "green"] },
  b: { words: ["b", "blue"] },
  c: { words: ["c", "clear"] },
  h: { words: ["h", "hue"], goesRound: true },
  s: { words: ["s", "sat", "saturation"] },
  v: { words: ["v", "val", "value", "brightness"] },
  hue: { words: ["hue", "h"], goesRound: true },
  reflected: { words: ["reflected", "reflection", "intensity"] },
  code: { words: ["code", "colour_code", "color_code"] },
};

/** Every feature of one reading; NaN where the report does not give it, or a grey has no hue. */
export type Features = { readonly [F in Feature]: number };

/** One feature of a reading, by a way that engines know how to shorten; a lookup by name takes several times longer. */
export function featureValue(features: Features, feature: Feature): number {
  switch (feature) {
    case "hue":
      return features.hue;
    case "sat":
      return features.sat;
    case "val":
      return features.val;
    default:
      return features[feature];
  }
}

/** No feature at all: NaN passes no test, with or without `not`. */
export const NO_FEATURES = Object.fromEntries(FEATURES.map((f) => [f, Number.NaN])) as Features;

/** The features that follow from red, green and blue as fractions. */
export function featuresOf(r: number, g: number, b: number, clear = Number.NaN): Features {
  return {
    r,
    g,
    b,
    clear,
    hue: hueOf(r, g, b),
    sat: satOf(r, g, b),
    val: valOf(r, g, b),
    light: lightOf(r, g, b),
    chroma: chromaOf(r, g, b),
    reflected: Number.NaN,
    code: Number.NaN,
  };
}

/** The same, but lightness and chroma are worked out only when asked for: the form for one reading after another. */
class LazyFeatures implements Features {
  readonly hue: number;
  readonly sat: number;
  readonly val: number;
  constructor(
    readonly r: number,
    readonly g: number,
    readonly b: number,
    readonly clear: number,
  ) {
    const max = Math.max(r, g, b);
    const delta = max - Math.min(r, g, b);
    this.hue = hueWithin(r, g, b, max, delta);
    this.sat = max === 0 ? 0 : delta / max;
    this.val = max;
  }
  get reflected() {
    return Number.NaN;
  }
  get code() {
    return Number.NaN;
  }
  get light() {
    return lightOf(this.r, this.g, this.b);
  }
  get chroma() {
    return chromaOf(this.r, this.g, this.b);
  }
}

/** The features of red, green and blue as fractions, lightness and chroma worked out only when asked for. */
export const lazyFeatures = (r: number, g: number, b: number, clear = Number.NaN): Features =>
  new LazyFeatures(r, g, b, clear);
