import type { Sensor } from "../project/schema";

/** One reading: three raw channel values as they came over the wire. */
export type Raw = readonly [number, number, number];

/** Which position of the wire holds red, green and blue. */
export const WIRE_ORDER = { rgb: [0, 1, 2], bgr: [2, 1, 0], grb: [1, 0, 2] } as const;

/** How one channel gets from raw to a fraction: `(raw − low) / (high − low)`, clamped where there is a reference. */
export interface ChannelScale {
  low: number;
  high: number;
  clamp: boolean;
}

/**
 * The scale of red, green and blue for a sensor. With a reference, dark and white take the place of the scale's
 * ends, since scaling both and then dividing is the same line through the same two points.
 */
export function channelScales(sensor: Pick<Sensor, "scale" | "reference">): [ChannelScale, ChannelScale, ChannelScale] {
  const { reference, scale } = sensor;
  const of = (channel: "r" | "g" | "b", i: number): ChannelScale =>
    reference
      ? { low: reference.dark[i], high: reference.white[i], clamp: true }
      : { low: scale[channel][0], high: scale[channel][1], clamp: false };
  return [of("r", 0), of("g", 1), of("b", 2)];
}

/** One raw value to a fraction. */
export function scaled(raw: number, { low, high, clamp }: ChannelScale): number {
  const x = (raw - low) / (high - low);
  return clamp ? (x < 0 ? 0 : Math.min(x, 1)) : x;
}

/** Raw values by colour, from what came at the three places of the wire. */
export function byColour<C>(channels: { r: C; g: C; b: C }, order: Sensor["order"]): { r: C; g: C; b: C } {
  const wire = [channels.r, channels.g, channels.b];
  const [r, g, b] = WIRE_ORDER[order ?? "rgb"];
  return { r: wire[r], g: wire[g], b: wire[b] };
}
