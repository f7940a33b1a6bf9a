import { sinCos } from "../arithmetic";
import { displayToLinear, hexToRgb } from "../colour";
import type { LightId, TargetId } from "../names";
import {
  FEATURE_FACTS,
  type Feature,
  featureReader,
  type Light,
  type Raw,
  REPORT_KINDS,
  type Sensor,
} from "../readings";
import type { Target } from "../rules";
import { type Chance, chance } from "./chance";
import { SensorOptics } from "./optics";

/** What can lie under the sensor on the bench: a target, the cards for white and dark, or nothing at all. */
export type Under = TargetId | "white-card" | "dark-cap" | "open-air";

/** How the stand is set. Lengths in mm, angles in degrees; `share` is how much of the spot lies on `beside`, 0..1. */
export interface StandSettings {
  under: Under;
  beside: Under | null;
  share: number;
  light: LightId | null;
  height: number;
  tilt: number;
  tremble: number;
}

/** The limits of a stand's settings. */
export const STAND_LIMITS = {
  height: [0, 120],
  tilt: [0, 60],
  tremble: [0, 8],
  share: [0, 1],
} as const;

const WHITE = [0.9, 0.9, 0.9];
const BLACK = [0, 0, 0];

/** Linear reflectance of what lies under a sensor; nothing at all sends nothing back. */
export function reflectanceOf(under: Under, targets: readonly Pick<Target, "id" | "paint">[]): readonly number[] {
  if (under === "white-card") return WHITE;
  const paint = targets.find((t) => t.id === under)?.paint;
  return paint === undefined ? BLACK : hexToRgb(paint).map(displayToLinear);
}

const ROOM: Light = { id: "room" as LightId, name: "Room", rgb: [1, 1, 1], level: 0.4 };
const NO_LIGHT: Light = { id: "dark" as LightId, name: "Dark", rgb: [1, 1, 1], level: 0 };

/**
 * A simulated sensor on a stand. The hand that holds it wanders about its height by `tremble` mm (standard
 * deviation); a tilted sensor gets back less of its own lamp and lets in more of the room.
 */
export class BenchStand {
  private readonly noise: Chance;
  private readonly hand: Chance;
  private readonly mixed = [0, 0, 0];
  private readonly signal = new Float64Array(3);
  private optics: SensorOptics;
  private drift = 0;

  constructor(
    private readonly sensor: Sensor,
    private readonly lights: readonly Light[],
    private readonly targets: readonly Target[],
    private settings: StandSettings,
    seed: number,
  ) {
    this.noise = chance(seed, "noise");
    this.hand = chance(seed, "hand");
    this.optics = this.opticsFor(settings);
  }

  /** Sets the stand otherwise; what the sensor reads follows with the next reading. */
  set(settings: StandSettings): void {
    this.settings = settings;
    this.optics = this.opticsFor(settings);
  }

  private opticsFor({ under, light, tilt }: StandSettings): SensorOptics {
    const { cos } = sinCos(Math.max(0, Math.min(80, tilt)));
    const { optics } = this.sensor;
    // Under a cap no light of the room comes in.
    const room = under === "dark-cap" ? NO_LIGHT : (this.lights.find((l) => l.id === light) ?? this.lights[0] ?? ROOM);
    const lampRgb = optics.lampRgb.map((x) => x * cos * cos) as [number, number, number];
    const tilted = { ...this.sensor, optics: { ...optics, lampRgb, leakPerMm: optics.leakPerMm * (2 - cos) } };
    return new SensorOptics(tilted, room, this.targets);
  }

  /** The next reading, in the sensor's own report kind, scale and order. */
  read(): Raw {
    const { under, beside, share, height, tremble } = this.settings;
    // Drawn back to its height, so that the deviation stays `tremble`.
    this.drift = 0.97 * this.drift + Math.sqrt(1 - 0.97 * 0.97) * tremble * this.hand.normal();
    const z = Math.max(0, height + this.drift);
    const below = reflectanceOf(under, this.targets);
    const other = beside === null ? below : reflectanceOf(beside, this.targets);
    for (let c = 0; c < 3; c++) this.mixed[c] = (1 - share) * below[c] + share * other[c];
    this.optics.signal(this.mixed, z, this.signal);
    return this.optics.measure(this.signal, this.noise);
  }
}

/** One thing's feature over the height: mean and deviation at each step. */
export interface SweptFeature {
  under: Under;
  mean: number[];
  deviation: number[];
}

/** A feature over the height for several things, and where it reads well. */
export interface HeightSweep {
  feature: Feature;
  heights: number[];
  things: SweptFeature[];
  /** From and to which height all things read bright enough, unclipped and apart; undefined where nowhere. */
  usable: [number, number] | undefined;
  /** The usable height at which the dimmest of them is brightest, in the middle where several are. */
  best: number | undefined;
}

/** As high as the stand can be set. */
const SWEEP_TO = 120;
const PER_HEIGHT = 24;
/** Below this value a reading is mostly noise. */
const BRIGHT_ENOUGH = 0.1;

/**
 * Reads each thing at every mm of height from 0 to 120. Usable is the widest stretch of heights in which every thing
 * reads brighter than 10 % without being clipped, and any two lie farther apart than twice the sum of their
 * deviations.
 */
export function sweepHeights(
  sensor: Sensor,
  lights: readonly Light[],
  targets: readonly Target[],
  settings: StandSettings,
  things: readonly Under[],
  feature: Feature,
): HeightSweep {
  const heights = Array.from({ length: SWEEP_TO + 1 }, (_, i) => i);
  const read = featureReader(sensor);
  const good = heights.map(() => true);
  const dimmest = heights.map(() => 1);
  const brightness = REPORT_KINDS.get(sensor.reports).features.includes("val") ? "val" : "reflected";
  const swept = things.map((under): SweptFeature => {
    const made: SweptFeature = { under, mean: [], deviation: [] };
    heights.forEach((height, h) => {
      const stand = new BenchStand(
        sensor,
        lights,
        targets,
        { ...settings, under, beside: null, share: 0, height },
        7 + h,
      );
      const values: number[] = [];
      let bright = 0;
      let clipped = 0;
      for (let i = 0; i < PER_HEIGHT; i++) {
        const features = read(stand.read());
        bright += (Number.isNaN(features[brightness]) ? 1 : features[brightness]) / PER_HEIGHT;
        if (features[brightness] >= 1) clipped++;
        if (!Number.isNaN(features[feature])) values.push(features[feature]);
      }
      const { mean, deviation } = meanOf(feature, values);
      made.mean.push(mean);
      made.deviation.push(deviation);
      dimmest[h] = Math.min(dimmest[h], bright);
      if (bright < BRIGHT_ENOUGH || clipped > PER_HEIGHT / 4 || Number.isNaN(mean)) good[h] = false;
    });
    return made;
  });
  heights.forEach((_, h) => {
    for (let i = 0; i < swept.length; i++)
      for (let k = i + 1; k < swept.length; k++) {
        const apart = distance(feature, swept[i].mean[h], swept[k].mean[h]);
        if (!(apart > 2 * (swept[i].deviation[h] + swept[k].deviation[h]))) good[h] = false;
      }
  });
  const usable = widest(good);
  return { feature, heights, things: swept, usable, best: usable && brightest(dimmest, usable) };
}

/** The height in a stretch at which the value is greatest, in the middle where it is so at several. */
function brightest(values: readonly number[], [from, to]: [number, number]): number {
  const most = Math.max(...values.slice(from, to + 1));
  const at = values.flatMap((value, h) => (h >= from && h <= to && value === most ? [h] : []));
  return at[at.length >> 1];
}

function distance(feature: Feature, a: number, b: number): number {
  const d = Math.abs(a - b);
  return feature === "hue" && d > 180 ? 360 - d : d;
}

/** Mean and deviation; hues are taken around the first of them. */
function meanOf(feature: Feature, values: readonly number[]): { mean: number; deviation: number } {
  if (values.length < PER_HEIGHT / 2) return { mean: Number.NaN, deviation: Number.NaN };
  const [first] = values;
  const around = (v: number) => (feature !== "hue" ? v : v - first > 180 ? v - 360 : v - first < -180 ? v + 360 : v);
  const mean = values.reduce((sum, v) => sum + around(v), 0) / values.length;
  const squares = values.reduce((sum, v) => sum + (around(v) - mean) ** 2, 0);
  const { max } = FEATURE_FACTS[feature];
  return {
    mean: feature === "hue" ? ((mean % max) + max) % max : mean,
    deviation: Math.sqrt(squares / (values.length - 1)),
  };
}

function widest(good: readonly boolean[]): [number, number] | undefined {
  let best: [number, number] | undefined;
  for (let from = 0; from < good.length; from++) {
    let to = from;
    while (good[from] && to + 1 < good.length && good[to + 1]) to++;
    if (good[from] && (best === undefined || to - from > best[1] - best[0])) best = [from, to];
    from = Math.max(from, to);
  }
  return best;
}
