import { wrapHue } from "@perceptum/core/colour";
import { FEATURE_FACTS, type Feature } from "@perceptum/core/readings";

/** The part of an axis that is shown, as shares of the whole. */
export type Part = readonly [from: number, to: number];
export const WHOLE: Part = [0, 1];

/** One axis of the colour field: a feature laid along 0..1, the hue circle cut open at its seam. */
export interface Axis {
  feature: Feature;
  /** No feature lies along it; points are scattered. */
  scatter: boolean;
  name: string;
  /** Where a value lies, 0..1 within the part that is shown; NaN for a hue that is not there. */
  at(value: number): number;
  /** The value that lies there, to a whole shown unit. */
  value(at: number): number;
  /** A move of this share of the axis as a change of value. */
  change(share: number): number;
  /** Value plus change, kept on the axis. */
  moved(value: number, change: number): number;
  ticks: readonly number[];
  /** Where the two ends of the whole axis lie. */
  start: number;
  end: number;
}

/** The smallest steps between ticks, as shares of the whole axis, by the width of the part that is shown. */
const TICK_SHARES = [0.25, 0.1, 0.05, 0.02, 0.01];
const HUE_STEPS = [30, 10, 5, 2, 1];

export function makeAxis(feature: Feature, seam: number, part: Part = WHOLE): Axis {
  const { max, unit, word } = FEATURE_FACTS[feature];
  const [from, to] = part;
  const width = to - from;
  const within = (share: number) => (share - from) / width;
  const whole = (at: number) => from + Math.max(0, Math.min(1, at)) * width;
  const name = `${word}${unit === "" ? "" : ` ${unit}`}`;
  const start = within(0);
  const end = within(1);
  const level = width > 0.6 ? 0 : width > 0.25 ? 1 : width > 0.1 ? 2 : width > 0.04 ? 3 : 4;
  if (feature === "hue") {
    const step = HUE_STEPS[level];
    const all = Array.from({ length: 360 / step }, (_, i) => wrapHue(Math.ceil(seam / step) * step + i * step));
    // Fine hues for a narrow part, else whole degrees.
    const round = (degrees: number) => (width > 0.1 ? Math.round(degrees) : Math.round(degrees * 10) / 10);
    // A hue lies in 0..360, so that turning it on costs no division: this is asked of every reading.
    const at = (value: number) => within((value < seam ? value - seam + 360 : value - seam) / 360);
    return {
      feature,
      scatter: false,
      name,
      at,
      value: (a) => wrapHue(round(seam + whole(a) * 360)),
      change: (share) => round(share * width * 360),
      moved: (value, change) => wrapHue(value + change),
      ticks: all.filter((t) => at(t) >= -1e-9 && at(t) <= 1),
      start,
      end,
    };
  }
  const fine = width > 0.2 ? 1 : 10;
  const round = (value: number) =>
    unit === "%" ? Math.round(value * 100 * fine) / (100 * fine) : Math.round(value * fine) / fine;
  const step = TICK_SHARES[level];
  return {
    feature,
    scatter: false,
    name,
    at: (value) => within(value / max),
    value: (a) => round(whole(a) * max),
    change: (share) => round(share * width * max),
    moved: (value, change) => round(Math.max(0, Math.min(max, value + change))),
    ticks: Array.from({ length: Math.round(1 / step) + 1 }, (_, i) => i * step)
      .filter((share) => within(share) >= -1e-9 && within(share) <= 1 + 1e-9)
      .map((share) => share * max),
    start,
    end,
  };
}

/** An axis along which nothing is measured: for a sensor that gives one number only. */
export function scatterAxis(): Axis {
  return { ...makeAxis("code", 0), scatter: true, name: "", ticks: [] };
}

/** A part zoomed by `factor` around a place 0..1 within it, kept on the axis. */
export function zoomedPart([from, to]: Part, around: number, factor: number): Part {
  const width = Math.min(1, Math.max(0.01, (to - from) * factor));
  const start = Math.max(0, Math.min(1 - width, from + around * (to - from - width)));
  return [start, start + width];
}

/** A part moved by a share of its own width, kept on the axis. */
export function pannedPart([from, to]: Part, share: number): Part {
  const width = to - from;
  const start = Math.max(0, Math.min(1 - width, from + share * width));
  return [start, start + width];
}
