import { displayToLinear, hexToRgb, linearToDisplay, rgbToHex } from "../colour";
import { type Light, type Measured, type Raw, REPORT_KINDS, type ReportKind, type Sensor, wireOf } from "../readings";
import type { Target } from "../rules";
import type { Chance } from "./chance";

/** How much of the sensor's own lamp comes back from height z (mm): nothing below `minMm`, most at `bestMm`. */
export function lampReturn(
  z: number,
  { minMm, bestMm, depthMm }: { minMm: number; bestMm: number; depthMm: number },
): number {
  if (z < minMm) return 0;
  const off = (z - bestMm) / depthMm;
  return 1 / (1 + off * off);
}

/** The share of the room's light that reaches the spot at height z (mm). */
export function roomLeak(z: number, leakPerMm: number): number {
  return Math.min(1, z * leakPerMm);
}

/** The light in each channel at height z (mm), where the room is `level` times as bright as the light says. */
function lightAt({ optics }: Sensor, { rgb, level: own }: Light, z: number, level: number, out: Float64Array): void {
  const lamp = lampReturn(z, optics);
  const room = level * own * roomLeak(z, optics.leakPerMm);
  for (let c = 0; c < 3; c++) out[c] = optics.lampRgb[c] * lamp + rgb[c] * room;
}

/**
 * The paint that a sensor reads as red, green and blue (shares of its scale, 0..1) at its best height in a light: the
 * signal's formula solved for the reflectance.
 */
export function paintThatReads(sensor: Sensor, light: Light, rgb: readonly [number, number, number]): string {
  const { gain, glare, bestMm } = sensor.optics;
  const lit = new Float64Array(3);
  lightAt(sensor, light, bestMm, 1, lit);
  return rgbToHex(rgb.map((x, c) => linearToDisplay((x / gain[c] - glare[c]) / lit[c])) as [number, number, number]);
}

/** Noise that is none, before anything was measured. */
const NO_NOISE: Chance = { uniform: () => 0.5, normal: () => 0 };

/** Turns reflectance under a sensor into its raw readings, in one light. */
export class SensorOptics {
  private readonly steps: number;
  /** Which channel stands at each place of the wire, and whether each stands at its own. */
  private readonly places: readonly number[];
  private readonly inOrder: boolean;
  private readonly lows: Float64Array;
  private readonly spans: Float64Array;
  private readonly codes: readonly CodeColour[];
  private readonly rgb = new Float64Array(3);
  private readonly gain: Float64Array;
  private readonly glare: Float64Array;
  /** How much light there is at a height and level, worked out once for as long as they stay. */
  private readonly lit = new Float64Array(3);
  private litAt = Number.NaN;
  private litLevel = Number.NaN;
  private readonly partLit = new Float64Array(3);
  private readonly kind: ReportKind;
  /** The light that is measured, and the noise on it. */
  private coming: ArrayLike<number> = this.rgb;
  private noise: Chance = NO_NOISE;
  private readonly measured: Measured = {
    rgb: this.rgb,
    mean: () => this.sampled((this.coming[0] + this.coming[1] + this.coming[2]) / 3, this.noise),
    code: () => codeNearest(this.codes, this.rgb),
  };

  /** @param targets of whose paints a sensor with codes of its own knows those that it has a code for. */
  constructor(
    private readonly sensor: Sensor,
    private readonly light: Light,
    targets: readonly Pick<Target, "id" | "paint">[],
  ) {
    this.steps = 2 ** sensor.optics.bits - 1;
    const wire = wireOf(sensor);
    this.places = wire.map((_, place) => wire.indexOf(place));
    this.inOrder = wire.every((place, c) => place === c);
    this.gain = Float64Array.from(sensor.optics.gain);
    this.glare = Float64Array.from(sensor.optics.glare);
    this.kind = REPORT_KINDS.get(sensor.reports);
    const scales = this.kind.channels.map((channel) => sensor.scale[channel] ?? [0, 1]);
    this.lows = Float64Array.from(scales, ([min]) => min);
    this.spans = Float64Array.from(scales, ([min, max]) => max - min);
    this.codes = codeColours(sensor, targets);
  }

  /**
   * The signal per channel before noise (into `out`): gain · (ρ · (lamp + room) + glare), for linear reflectance ρ
   * 0..1 at height z in mm, where the room is `level` times as bright as the light says.
   */
  signal(reflectance: ArrayLike<number>, z: number, out: Float64Array, level = 1): void {
    // Height and level seldom change from one reading to the next.
    if (z !== this.litAt || level !== this.litLevel) {
      lightAt(this.sensor, this.light, z, level, this.lit);
      this.litAt = z;
      this.litLevel = level;
    }
    for (let c = 0; c < 3; c++) out[c] = this.gain[c] * (reflectance[c] * this.lit[c] + this.glare[c]);
  }

  /** Adds to a signal what a share of the spot gives back from its own height; what is there holds the glare. */
  add(reflectance: ArrayLike<number>, share: number, z: number, out: Float64Array, level = 1): void {
    lightAt(this.sensor, this.light, z, level, this.partLit);
    for (let c = 0; c < 3; c++) out[c] += this.gain[c] * share * reflectance[c] * this.partLit[c];
  }

  /**
   * A signal measured: noise N(0, read² + shot² · x) is added, then it is clipped to 0..1 and quantised to the
   * sensor's bits; then out in the sensor's own report kind, scale and order.
   */
  measure(signal: ArrayLike<number>, noise: Chance): Raw {
    const { rgb } = this;
    for (let c = 0; c < 3; c++) rgb[c] = this.sampled(signal[c], noise);
    this.coming = signal;
    this.noise = noise;
    const fractions = this.kind.measure(this.measured);
    return this.kind.coded ? fractions : this.scaledOut(fractions);
  }

  private sampled(signal: number, noise: Chance): number {
    const { read, shot } = this.sensor.optics;
    const x = Math.max(0, signal);
    const deviation = Math.sqrt(read * read + shot * shot * x);
    const noisy = Math.max(0, Math.min(1, x + deviation * noise.normal()));
    return Math.round(noisy * this.steps) / this.steps;
  }

  /** Takes the array over. */
  private scaledOut(fractions: number[]): Raw {
    for (let c = 0; c < fractions.length; c++) {
      const span = this.spans[c];
      const x = this.lows[c] + fractions[c] * span;
      // A scale of few units is reported with decimals, as far as they mean something.
      fractions[c] = span >= WHOLE_FROM ? Math.round(x) : Math.round(x * 1e4) / 1e4;
    }
    return this.inOrder ? fractions : this.places.map((c) => fractions[c]);
  }
}

/** From so wide a scale on, sensors report whole numbers. */
const WHOLE_FROM = 50;

/** A colour that a sensor with codes of its own was made to know. */
interface CodeColour {
  code: number;
  rgb: readonly number[];
}

/** Farther than this from every colour that it knows, such a sensor says 0: nothing. */
const CODE_REACH = 0.12;

/** What a sensor reads over each paint that it has a code for, at its best height by its own lamp. */
function codeColours({ codes, optics }: Sensor, targets: readonly Pick<Target, "id" | "paint">[]): CodeColour[] {
  return Object.entries(codes ?? {}).flatMap(([code, id]) => {
    const paint = targets.find((t) => t.id === id)?.paint;
    if (paint === undefined) return [];
    const rgb = hexToRgb(paint).map(
      (x, c) => optics.gain[c] * (displayToLinear(x) * optics.lampRgb[c] + optics.glare[c]),
    );
    return [{ code: Number(code), rgb }];
  });
}

function codeNearest(codes: readonly CodeColour[], rgb: ArrayLike<number>): number {
  let best = CODE_REACH * CODE_REACH;
  let found = 0;
  for (const known of codes) {
    let sum = 0;
    for (let c = 0; c < 3; c++) sum += (rgb[c] - known.rgb[c]) ** 2;
    if (sum < best) {
      best = sum;
      found = known.code;
    }
  }
  return found;
}
