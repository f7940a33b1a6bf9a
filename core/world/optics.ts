import type { Light, Sensor } from "../project/schema";
import { type Raw, WIRE_ORDER } from "../readings";
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

/** Turns reflectance under a sensor into its raw readings, in one light. */
export class SensorOptics {
  private readonly order: readonly [number, number, number];
  private readonly steps: number;

  constructor(
    private readonly sensor: Sensor,
    private readonly light: Light,
  ) {
    this.order = WIRE_ORDER[sensor.order ?? "rgb"] as readonly [number, number, number];
    this.steps = 2 ** sensor.optics.bits - 1;
  }

  /**
   * The signal per channel before noise (into `out`): gain · (ρ · (lamp + room) + glare), for linear reflectance ρ
   * 0..1 at height z in mm.
   */
  signal(reflectance: ArrayLike<number>, z: number, out: Float64Array): void {
    const { optics } = this.sensor;
    const lamp = lampReturn(z, optics);
    const room = this.light.level * roomLeak(z, optics.leakPerMm);
    for (let c = 0; c < 3; c++) {
      const light = optics.lampRgb[c] * lamp + this.light.rgb[c] * room;
      out[c] = optics.gain[c] * (reflectance[c] * light + optics.glare[c]);
    }
  }

  /**
   * A signal measured: noise N(0, read² + shot² · x) is added, then it is clipped to 0..1, quantised to the sensor's
   * bits, scaled to its raw range and put in wire order.
   */
  measure(signal: ArrayLike<number>, noise: Chance): Raw {
    const { optics, scale } = this.sensor;
    const raw: [number, number, number] = [0, 0, 0];
    for (let c = 0; c < 3; c++) {
      const x = Math.max(0, signal[c]);
      const deviation = Math.sqrt(optics.read * optics.read + optics.shot * optics.shot * x);
      const noisy = Math.max(0, Math.min(1, x + deviation * noise.normal()));
      const quantised = Math.round(noisy * this.steps) / this.steps;
      const [min, max] = scale[COLOURS[c]];
      raw[this.order[c]] = Math.round(min + quantised * (max - min));
    }
    return raw;
  }
}

const COLOURS = ["r", "g", "b"] as const;
