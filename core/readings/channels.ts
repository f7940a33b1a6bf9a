import { CHANNEL_FACTS, type Channel } from "./report";
import { REPORT_KINDS } from "./reportKinds";
import type { Sensor } from "./sensorSchema";
import { WIRE_ORDER } from "./wireOrder";

/** One reading: its raw channel values as they came over the wire. */
export type Raw = readonly number[];

/** What reading a sensor's raw values depends on. */
export type Scaling = Pick<Sensor, "reports" | "scale" | "order" | "reference">;

/** Which position of the wire holds each channel of the sensor's report. Only colours may come in another order. */
export function wireOf({ reports, order }: Pick<Sensor, "reports" | "order">): readonly number[] {
  const kind = REPORT_KINDS.get(reports);
  if (!kind.ordered) return kind.channels.map((_, i) => i);
  return [...WIRE_ORDER[order ?? "rgb"], ...kind.channels.slice(3).map((_, i) => 3 + i)];
}

/** How one channel gets from raw to a fraction: `(raw − low) / (high − low)`, clamped to 0..1; a hue wraps instead. */
export interface ChannelScale {
  low: number;
  high: number;
  clamp: boolean;
}

/**
 * The scale of each channel of a sensor's report, colours as red, green, blue. With a reference, dark and white take
 * the place of the scale's ends, since scaling both and then dividing is the same line through the same two points.
 */
export function channelScales({ reports, scale, reference }: Scaling): ChannelScale[] {
  return REPORT_KINDS.get(reports).channels.map((channel, i) => {
    const [min, max] = scale[channel] ?? [0, 1];
    const [low, high] = reference ? [reference.dark[i], reference.white[i]] : [min, max];
    return { low, high, clamp: !CHANNEL_FACTS[channel].goesRound };
  });
}

/** A raw value as a fraction of its scale, clamped to 0..1. */
function clampedShare(raw: number, low: number, high: number): number {
  const x = (raw - low) / (high - low);
  if (x < 0) return 0;
  // No call: on a robot every reading comes here.
  if (x > 1) return 1;
  return x;
}

/** One raw value to a fraction. */
export function scaled(raw: number, { low, high, clamp }: ChannelScale): number {
  return clamp ? clampedShare(raw, low, high) : (raw - low) / (high - low);
}

/** Raw values by the channel that they are of (red, green, blue), from what came at the places of the wire. */
export function byColour<C>(
  channels: Partial<Record<Channel, C>>,
  sensor: Pick<Sensor, "reports" | "order">,
): { channel: Channel; values: C }[] {
  const { channels: names } = REPORT_KINDS.get(sensor.reports);
  return wireOf(sensor).flatMap((place, i) => {
    const values = channels[names[place]];
    return values === undefined ? [] : [{ channel: names[i], values }];
  });
}
