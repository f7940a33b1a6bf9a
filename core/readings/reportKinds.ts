import { hsvToRgb, hueOf, satOf, valOf, wrapHue } from "../colour";
import { Kinds } from "../names";
import type { Feature } from "./feature";
import { type Channel, type Features, lazyFeatures, NO_FEATURES } from "./report";

/** What sensors report. */
export type Report = "rgb" | "rgbc" | "hsv" | "hue" | "reflected" | "code" | "frames";

/** The light that a simulated sensor has measured. */
export interface Measured {
  /** Red, green and blue as fractions. */
  rgb: ArrayLike<number>;
  /** Measures the mean of the three by itself. */
  mean(): number;
  /** The code of the nearest colour that the sensor knows, 0 for none. */
  code(): number;
}

/** A form of such readings that people choose for a sensor: the end of each channel's scale, and the sensor's bits. */
interface Form {
  id: string;
  text: string;
  scale: readonly number[];
  bits: number;
}

/** A kind of report: its channels, what they give, and how. A new kind is one more entry. */
export interface ReportKind {
  readonly key: Report;
  name: string;
  channels: readonly Channel[];
  features: readonly Feature[];
  forms: readonly Form[];
  /** The period of such a sensor in ms, where nothing else is said. */
  usualMs: number;
  /** Whether three of the channels are colours that may come in another order. */
  ordered?: true;
  /** Whether dark and white can be taken: the channels measure light. */
  referenced?: true;
  /** The channels that say how much light comes: at the end of the scale they say too little. */
  bright: readonly Channel[];
  /** Its readings are codes of the sensor's own: they are not scaled, and no rule is needed for them. */
  coded?: true;
  /** It gives frames: its readings are pixels, of which a tape keeps none but those that boxes mark. */
  ofPixels?: true;
  /** Features of one reading, from its channels as fractions; the array is used again for the next. */
  featuresOfOne(x: readonly number[]): Features;
  /** The columns from which all others follow, for many readings. */
  columns(x: readonly Float64Array[]): Partial<Record<Feature, Float64Array>>;
  /**
   * How robots' code works out features that are no channels: names with their formulas, in order. A channel goes by its
   * own name, and by `share` where a formula has that name.
   */
  formulas: readonly (readonly [name: string, formula: string])[];
  /** The channels as fractions, or the code, that a simulated sensor reports. */
  measure(measured: Measured): number[];
}

const COLOURED: readonly Feature[] = ["r", "g", "b", "hue", "sat", "val", "light", "chroma"];
/** Formulas of what follows from red, green and blue. */
const FROM_RGB = [
  ["hue", "hue_of(r, g, b)"],
  ["sat", "sat_of(r, g, b)"],
  ["val", "max(r, g, b)"],
  ["light", "light_of(r, g, b)"],
  ["chroma", "chroma_of(r, g, b)"],
] as const;

/** Hue 0..1, saturation and value as red, green and blue. */
const rgbOfHsv = (h: number, s: number, v: number) => hsvToRgb(wrapHue(h * 360), s, v);

/** Hue as a share of the circle; of a grey, which has none, sensors say 0. */
function hueShare(rgb: ArrayLike<number>): number {
  const hue = hueOf(rgb[0], rgb[1], rgb[2]);
  return Number.isNaN(hue) ? 0 : hue / 360;
}

const rgb: ReportKind = {
  key: "rgb",
  name: "red, green, blue",
  channels: ["r", "g", "b"],
  features: COLOURED,
  forms: [
    { id: "rgb-8", text: "Red, green, blue, 8 bit (0–255)", scale: [255, 255, 255], bits: 8 },
    { id: "rgb-10", text: "Red, green, blue, 10 bit (0–1023)", scale: [1023, 1023, 1023], bits: 10 },
    { id: "rgb-16", text: "Red, green, blue, 16 bit (0–65535)", scale: [65_535, 65_535, 65_535], bits: 16 },
    { id: "rgb-1", text: "Red, green, blue, 0–1", scale: [1, 1, 1], bits: 10 },
    { id: "rgb-100", text: "Red, green, blue, 0–100", scale: [100, 100, 100], bits: 10 },
  ],
  usualMs: 20,
  ordered: true,
  referenced: true,
  bright: ["r", "g", "b"],
  featuresOfOne: (x) => lazyFeatures(x[0], x[1], x[2]),
  columns: ([r, g, b]) => ({ r, g, b }),
  formulas: FROM_RGB,
  measure: ({ rgb }) => [rgb[0], rgb[1], rgb[2]],
};

const rgbc: ReportKind = {
  ...rgb,
  key: "rgbc",
  name: "red, green, blue and clear",
  channels: ["r", "g", "b", "c"],
  features: ["r", "g", "b", "clear", ...COLOURED.slice(3)],
  forms: [
    { id: "rgbc-10", text: "Red, green, blue and clear, 10 bit", scale: [1023, 1023, 1023, 1023], bits: 10 },
    {
      id: "rgbc-16",
      text: "Red, green, blue and clear, 16 bit",
      scale: [65_535, 65_535, 65_535, 65_535],
      bits: 16,
    },
  ],
  bright: ["r", "g", "b", "c"],
  featuresOfOne: (x) => lazyFeatures(x[0], x[1], x[2], x[3]),
  columns: ([r, g, b, clear]) => ({ r, g, b, clear }),
  formulas: [["clear", "c"], ...FROM_RGB],
  measure: ({ rgb, mean }) => [rgb[0], rgb[1], rgb[2], mean()],
};

const hsv: ReportKind = {
  key: "hsv",
  name: "hue, saturation, value",
  channels: ["h", "s", "v"],
  features: COLOURED,
  forms: [
    { id: "hsv-360", text: "Hue 0–360, saturation and value 0–100", scale: [360, 100, 100], bits: 10 },
    { id: "hsv-8", text: "Hue, saturation, value, 8 bit each", scale: [255, 255, 255], bits: 8 },
  ],
  usualMs: 20,
  bright: ["v"],
  featuresOfOne: ([h, s, v]) => {
    const [r, g, b] = rgbOfHsv(h, s, v);
    return lazyFeatures(r, g, b);
  },
  columns: ([h, s, v]) => {
    const [r, g, b] = [new Float64Array(h.length), new Float64Array(h.length), new Float64Array(h.length)];
    for (let i = 0; i < h.length; i++) [r[i], g[i], b[i]] = rgbOfHsv(h[i], s[i], v[i]);
    return { r, g, b };
  },
  formulas: [
    ["degrees", "wrap_hue(h * 360.0)"],
    ["r", "channel_of(degrees, s, v, 5.0)"],
    ["g", "channel_of(degrees, s, v, 3.0)"],
    ["b", "channel_of(degrees, s, v, 1.0)"],
    ...FROM_RGB,
  ],
  measure: ({ rgb }) => [hueShare(rgb), satOf(rgb[0], rgb[1], rgb[2]), valOf(rgb[0], rgb[1], rgb[2])],
};

const hue: ReportKind = {
  key: "hue",
  name: "hue only",
  channels: ["hue"],
  features: ["hue"],
  forms: [
    { id: "hue-360", text: "Hue only, 0–360", scale: [360], bits: 10 },
    { id: "hue-8", text: "Hue only, 8 bit", scale: [255], bits: 8 },
  ],
  usualMs: 20,
  bright: [],
  featuresOfOne: ([hue]) => ({ ...NO_FEATURES, hue: wrapHue(hue * 360) }),
  columns: ([hue]) => ({ hue: hue.map((x) => wrapHue(x * 360)) }),
  formulas: [["hue", "wrap_hue(share * 360.0)"]],
  measure: ({ rgb }) => [hueShare(rgb)],
};

const reflected: ReportKind = {
  key: "reflected",
  name: "reflected light",
  channels: ["reflected"],
  features: ["reflected"],
  forms: [
    { id: "reflected-100", text: "Reflected light, 0–100", scale: [100], bits: 10 },
    { id: "reflected-10", text: "Reflected light, 10 bit", scale: [1023], bits: 10 },
  ],
  usualMs: 20,
  referenced: true,
  bright: ["reflected"],
  featuresOfOne: ([reflected]) => ({ ...NO_FEATURES, reflected }),
  columns: ([reflected]) => ({ reflected }),
  formulas: [],
  measure: ({ rgb }) => [(rgb[0] + rgb[1] + rgb[2]) / 3],
};

const code: ReportKind = {
  key: "code",
  name: "own colour codes",
  channels: ["code"],
  features: ["code"],
  forms: [{ id: "code", text: "Colour codes of its own", scale: [], bits: 10 }],
  usualMs: 20,
  bright: [],
  coded: true,
  featuresOfOne: ([code]) => ({ ...NO_FEATURES, code }),
  columns: ([code]) => ({ code }),
  formulas: [],
  measure: ({ code }) => [code()],
};

const { referenced: _, ...plainRgb } = rgb;
const frames: ReportKind = {
  ...plainRgb,
  key: "frames",
  name: "camera frames",
  forms: [{ id: "frames", text: "Camera frames, 8 bit each", scale: [255, 255, 255], bits: 8 }],
  usualMs: 100,
  ofPixels: true,
};

/** All kinds of reports. Readings in files count them from 0, in this order. */
export const REPORT_KINDS = new Kinds<ReportKind>([rgb, rgbc, hsv, hue, reflected, code, frames]);

/** The channels that a tape keeps at each of its times: of a camera none, since its frames are kept apart. */
export function channelsOnTape(reports: Report): readonly Channel[] {
  const { ofPixels, channels } = REPORT_KINDS.get(reports);
  return ofPixels ? [] : channels;
}
