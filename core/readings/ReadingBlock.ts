import { chromaOf, hueOf, lightOf, satOf, valOf } from "../colour";
import type { Sensor } from "../project/schema";
import { channelScales, type Raw, scaled, WIRE_ORDER } from "./channels";
import type { Feature } from "./feature";

/** Raw readings as they came: time in ms and the three wire positions, each of the same length. */
export interface RawReadings {
  t: Float64Array;
  channels: { r: Float64Array; g: Float64Array; b: Float64Array };
}

const DERIVED: Record<Exclude<Feature, "r" | "g" | "b">, (r: number, g: number, b: number) => number> = {
  hue: hueOf,
  sat: satOf,
  val: valOf,
  light: lightOf,
  chroma: chromaOf,
};

/**
 * Many readings as a structure of typed arrays, one per feature, all float64 and of `length`. A feature's array is
 * made when it is first asked for.
 */
export class ReadingBlock {
  readonly length: number;
  readonly t: Float64Array;
  private readonly columns: Partial<Record<Feature, Float64Array>> = {};

  /**
   * @throws RangeError when the channels differ in length from `t`.
   */
  constructor(raw: RawReadings, sensor: Pick<Sensor, "scale" | "order" | "reference">) {
    const { t, channels } = raw;
    this.length = t.length;
    this.t = t;
    const wire = [channels.r, channels.g, channels.b];
    const from = WIRE_ORDER[sensor.order ?? "rgb"];
    const scales = channelScales(sensor);
    (["r", "g", "b"] as const).forEach((name, i) => {
      const source = wire[from[i]];
      if (source.length !== t.length) {
        throw new RangeError(`channel ${name} has ${source.length} values for ${t.length} times`);
      }
      const column = new Float64Array(t.length);
      for (let k = 0; k < column.length; k++) column[k] = scaled(source[k], scales[i]);
      this.columns[name] = column;
    });
  }

  /** The values of one feature, one per reading. */
  column(feature: Feature): Float64Array {
    const known = this.columns[feature];
    if (known) return known;
    const derive = DERIVED[feature as keyof typeof DERIVED];
    const { r, g, b } = this.columns as Record<"r" | "g" | "b", Float64Array>;
    const column = new Float64Array(this.length);
    for (let i = 0; i < column.length; i++) column[i] = derive(r[i], g[i], b[i]);
    this.columns[feature] = column;
    return column;
  }

  /** All features of the reading at `index`. */
  at(index: number): Features {
    const { r, g, b } = this.columns as Record<"r" | "g" | "b", Float64Array>;
    return featuresOf(r[index], g[index], b[index]);
  }

  /** The last reading at or before time `t` in ms; 0 before the first; −1 where there is none. */
  indexAt(t: number): number {
    let low = 0;
    let high = this.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.t[middle] <= t) low = middle;
      else high = middle - 1;
    }
    return this.length === 0 ? -1 : low;
  }
}

/** Every feature of one reading. */
export type Features = Record<Feature, number>;

/** The features that follow from red, green and blue as fractions. */
export function featuresOf(r: number, g: number, b: number): Features {
  return {
    r,
    g,
    b,
    hue: hueOf(r, g, b),
    sat: satOf(r, g, b),
    val: valOf(r, g, b),
    light: lightOf(r, g, b),
    chroma: chromaOf(r, g, b),
  };
}

/** A function from one raw reading of `sensor` to red, green and blue as fractions. */
export function rgbReader(sensor: Pick<Sensor, "scale" | "order" | "reference">): (raw: Raw) => Raw {
  const [r, g, b] = WIRE_ORDER[sensor.order ?? "rgb"];
  const [sr, sg, sb] = channelScales(sensor);
  return (raw) => [scaled(raw[r], sr), scaled(raw[g], sg), scaled(raw[b], sb)];
}

type BlockSensor = Pick<Sensor, "scale" | "order" | "reference">;
const blocks = new WeakMap<RawReadings, { sensor: BlockSensor; block: ReadingBlock }>();

/** The block of these readings, made once as long as readings and sensor are the same objects. */
export function blockOf(raw: RawReadings, sensor: BlockSensor): ReadingBlock {
  const known = blocks.get(raw);
  if (known !== undefined && known.sensor === sensor) return known.block;
  const block = new ReadingBlock(raw, sensor);
  blocks.set(raw, { sensor, block });
  return block;
}
