import { hsvColumns, lightChromaColumns } from "../colour";
import { type ChannelScale, channelScales, type Raw, type Scaling, scaled, wireOf } from "./channels";
import type { Feature } from "./feature";
import type { RawReadings } from "./rawReadings";
import { type Features, featuresOf, lazyFeatures } from "./report";
import { REPORT_KINDS } from "./reportKinds";

type Columns = Partial<Record<Feature, Float64Array>>;

/** Which columns come together from red, green and blue. */
const DERIVED: Partial<Record<Feature, (r: Float64Array, g: Float64Array, b: Float64Array) => Columns>> = {
  hue: hsvColumns,
  sat: hsvColumns,
  val: hsvColumns,
  light: lightChromaColumns,
  chroma: lightChromaColumns,
};

/**
 * Many readings as a structure of typed arrays, one per feature, all float64 and of `length`. A feature's array is
 * made when it is first asked for; one that the sensor does not report holds NaN throughout.
 */
export class ReadingBlock {
  readonly length: number;
  readonly t: Float64Array;
  /** What the sensor's report gives. */
  readonly features: readonly Feature[];
  /** Red, green and blue are as a screen shows them, and not linear in light: a camera's pixels. */
  readonly isShown: boolean;
  private readonly columns: Columns;
  /** Results that were worked out of it, by the functions that did. */
  private readonly workedOut = new Map<(block: ReadingBlock) => unknown, unknown>();

  /**
   * @throws RangeError when a channel is missing or differs in length from `t`.
   */
  constructor(raw: RawReadings, sensor: Scaling) {
    const { t, channels } = raw;
    const kind = REPORT_KINDS.get(sensor.reports);
    this.length = t.length;
    this.t = t;
    this.isShown = kind.ofPixels === true;
    // A camera's tape keeps its times alone: what was read then lies in its frames.
    const onlyTimes = this.isShown && Object.keys(channels).length === 0;
    this.features = onlyTimes ? [] : kind.features;
    this.columns = {};
    if (onlyTimes) return;
    const wire = wireOf(sensor);
    const scales = channelScales(sensor);
    const fractions = kind.channels.map((name, i) => {
      const source = channels[kind.channels[wire[i]]];
      if (source?.length !== t.length)
        throw new RangeError(`channel ${name} has ${source?.length ?? "no"} values for ${t.length} times`);
      return kind.coded ? source : scaledColumn(source, scales[i]);
    });
    this.columns = kind.columns(fractions);
  }

  /** Gives what a function makes of this block, worked out once. */
  once<T>(make: (block: ReadingBlock) => T): T {
    if (!this.workedOut.has(make)) this.workedOut.set(make, make(this));
    return this.workedOut.get(make) as T;
  }

  /** The values of one feature, one per reading. */
  column(feature: Feature): Float64Array {
    const known = this.columns[feature];
    if (known) return known;
    const { r, g, b } = this.columns;
    const derive = this.features.includes(feature) ? DERIVED[feature] : undefined;
    const made = derive && r && g && b && derive(r, g, b);
    const columns: Columns = made ?? { [feature]: new Float64Array(this.length).fill(Number.NaN) };
    Object.assign(this.columns, columns);
    return columns[feature] as Float64Array;
  }

  /** All features of the reading at `index`. */
  at(index: number): Features {
    const { r, g, b, clear } = this.columns;
    if (this.features.includes("val") && r && g && b) return lazyFeatures(r[index], g[index], b[index], clear?.[index]);
    const value = (feature: Feature) => this.columns[feature]?.[index] ?? Number.NaN;
    const none = Number.NaN;
    return { ...featuresOf(none, none, none), hue: value("hue"), reflected: value("reflected"), code: value("code") };
  }

  /** The first reading at or after time `t` in ms; as many as there are readings where none is. */
  firstFrom(t: number): number {
    let low = 0;
    let high = this.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.t[middle] >= t) high = middle;
      else low = middle + 1;
    }
    return low;
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

function scaledColumn(source: Float64Array, scale: ChannelScale): Float64Array {
  const column = new Float64Array(source.length);
  for (let k = 0; k < column.length; k++) column[k] = scaled(source[k], scale);
  return column;
}

/** A function from one raw reading of `sensor` to its features. */
export function featureReader(sensor: Scaling): (raw: Raw) => Features {
  const kind = REPORT_KINDS.get(sensor.reports);
  const wire = wireOf(sensor);
  const scales = channelScales(sensor);
  if (kind.coded) return kind.featuresOfOne;
  // One array and a loop, since every reading of a run comes here.
  const fractions = scales.map(() => 0);
  return (raw) => {
    for (let c = 0; c < fractions.length; c++) fractions[c] = scaled(raw[wire[c]], scales[c]);
    return kind.featuresOfOne(fractions);
  };
}

/** Blocks of readings: each is made once as long as they and what reading them depends on stay the same. */
export class Blocks {
  private readonly known = new WeakMap<RawReadings, { sensor: Scaling; block: ReadingBlock }>();

  of(raw: RawReadings, sensor: Scaling): ReadingBlock {
    const known = this.known.get(raw);
    if (known !== undefined && sameScaling(known.sensor, sensor)) return known.block;
    const block = new ReadingBlock(raw, sensor);
    this.known.set(raw, { sensor, block });
    return block;
  }
}

/** Whether two sensors read raw values alike; a changed name or period does not matter. */
export function sameScaling(a: Scaling, b: Scaling): boolean {
  return (
    a === b || (a.reports === b.reports && a.scale === b.scale && a.order === b.order && a.reference === b.reference)
  );
}
