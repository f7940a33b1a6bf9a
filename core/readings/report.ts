import { chromaOf, hsvToRgb, hueOf, hueWithin, lightOf, satOf, valOf, wrapHue } from "../colour";
import { FEATURES, type Feature } from "./feature";

/** Every name that a raw channel has in files. */
export const CHANNELS = ["r", "g", "b", "c", "h", "s", "v", "hue", "reflected", "code"] as const;
export type Channel = (typeof CHANNELS)[number];

/** What sensors report. */
export const REPORTS = ["rgb", "rgbc", "hsv", "hue", "reflected", "code", "frames"] as const;
export type Report = (typeof REPORTS)[number];

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

/** Hue 0..1, saturation and value as red, green and blue. */
const rgbOfHsv = (h: number, s: number, v: number) => hsvToRgb(wrapHue(h * 360), s, v);

/** A kind of report: its channels, what they give, and how. A new kind is one more entry. */
export interface ReportKind {
  name: string;
  channels: readonly Channel[];
  features: readonly Feature[];
  /** Whether three of the channels are colours that may come in another order. */
  ordered: boolean;
  /** Whether dark and white can be taken: the channels measure light. */
  referenced: boolean;
  /** Raw values that are codes are not scaled. */
  scaled: boolean;
  /** It gives frames: its readings are pixels, of which a tape keeps none but those that boxes mark. */
  ofPixels?: true;
  /** Features of one reading, from its channels as fractions; the array is used again for the next. */
  featuresOfOne(x: readonly number[]): Features;
  /** The columns from which all others follow, for many readings. */
  columns(x: readonly Float64Array[]): Partial<Record<Feature, Float64Array>>;
}

/** The channels that a tape keeps at each of its times: of a camera none, since its frames are kept apart. */
export const channelsOnTape = (reports: Report): readonly Channel[] =>
  REPORT_KINDS[reports].ofPixels ? [] : REPORT_KINDS[reports].channels;

const COLOURED: readonly Feature[] = ["r", "g", "b", "hue", "sat", "val", "light", "chroma"];

export const REPORT_KINDS: Record<Report, ReportKind> = {
  rgb: {
    name: "red, green, blue",
    channels: ["r", "g", "b"],
    features: COLOURED,
    ordered: true,
    referenced: true,
    scaled: true,
    featuresOfOne: (x) => new LazyFeatures(x[0], x[1], x[2], Number.NaN),
    columns: ([r, g, b]) => ({ r, g, b }),
  },
  rgbc: {
    name: "red, green, blue and clear",
    channels: ["r", "g", "b", "c"],
    features: ["r", "g", "b", "clear", ...COLOURED.slice(3)],
    ordered: true,
    referenced: true,
    scaled: true,
    featuresOfOne: (x) => new LazyFeatures(x[0], x[1], x[2], x[3]),
    columns: ([r, g, b, clear]) => ({ r, g, b, clear }),
  },
  hsv: {
    name: "hue, saturation, value",
    channels: ["h", "s", "v"],
    features: COLOURED,
    ordered: false,
    referenced: false,
    scaled: true,
    featuresOfOne: ([h, s, v]) => {
      const [r, g, b] = rgbOfHsv(h, s, v);
      return new LazyFeatures(r, g, b, Number.NaN);
    },
    columns: ([h, s, v]) => {
      const [r, g, b] = [new Float64Array(h.length), new Float64Array(h.length), new Float64Array(h.length)];
      for (let i = 0; i < h.length; i++) [r[i], g[i], b[i]] = rgbOfHsv(h[i], s[i], v[i]);
      return { r, g, b };
    },
  },
  hue: {
    name: "hue only",
    channels: ["hue"],
    features: ["hue"],
    ordered: false,
    referenced: false,
    scaled: true,
    featuresOfOne: ([hue]) => ({ ...NO_FEATURES, hue: wrapHue(hue * 360) }),
    columns: ([hue]) => ({ hue: hue.map((x) => wrapHue(x * 360)) }),
  },
  reflected: {
    name: "reflected light",
    channels: ["reflected"],
    features: ["reflected"],
    ordered: false,
    referenced: true,
    scaled: true,
    featuresOfOne: ([reflected]) => ({ ...NO_FEATURES, reflected }),
    columns: ([reflected]) => ({ reflected }),
  },
  code: {
    name: "own colour codes",
    channels: ["code"],
    features: ["code"],
    ordered: false,
    referenced: false,
    scaled: false,
    featuresOfOne: ([code]) => ({ ...NO_FEATURES, code }),
    columns: ([code]) => ({ code }),
  },
  frames: {
    name: "camera frames",
    channels: ["r", "g", "b"],
    features: COLOURED,
    ordered: true,
    referenced: false,
    scaled: true,
    ofPixels: true,
    featuresOfOne: (x) => new LazyFeatures(x[0], x[1], x[2], Number.NaN),
    columns: ([r, g, b]) => ({ r, g, b }),
  },
};
