import { hsvToRgb, rgbToHex } from "@perceptum/core/colour";
import { cutName, freeId, type SensorId, type TargetId } from "@perceptum/core/names";
import { emptyProject } from "@perceptum/core/project";
import {
  type Channel,
  columnsRead,
  featureReader,
  guessScales,
  type ImportPlan,
  type Light,
  REPORT_KINDS,
  type Sensor,
} from "@perceptum/core/readings";
import { freeTargetCode, type Target } from "@perceptum/core/rules";
import { paintThatReads } from "@perceptum/core/world";
import type { ImportResult, Preview } from "../workers/import.worker";

/** The plan for another kind of report: its channels from columns by name, else the ones that held numbers before. */
export function reported(plan: ImportPlan, report: ImportPlan["report"], { columns }: Preview): ImportPlan {
  const held = Object.values(plan.channels).filter((at) => at !== undefined);
  const { channels } = REPORT_KINDS.get(report);
  const named = channels.map((channel) => columns.findIndex((c) => c.name.toLowerCase() === channel));
  const at = named.every((i) => i >= 0) ? named : channels.map((_, i) => held[i]);
  return {
    ...plan,
    report,
    channels: Object.fromEntries(channels.flatMap((channel, i) => (at[i] === undefined ? [] : [[channel, at[i]]]))),
  };
}

/** Channels whose column has one value throughout. */
export function constantChannels(plan: ImportPlan, preview: Preview | undefined): { channel: string; value: number }[] {
  return Object.entries(plan.channels).flatMap(([channel, at]) => {
    const look = preview?.columns[at ?? -1];
    return look !== undefined && look.min === look.max ? [{ channel, value: look.min }] : [];
  });
}

export function guessedScale(plan: ImportPlan, { readings }: ImportResult): Partial<Record<Channel, number>> {
  return guessScales(
    Object.fromEntries(
      REPORT_KINDS.get(plan.report).channels.map((channel) => {
        let max = 0;
        for (const value of readings.channels[channel] ?? []) if (value > max) max = value;
        return [channel, max];
      }),
    ),
  );
}

/** Columns of numbers that a plan uses for nothing. */
export function unusedColumns(plan: ImportPlan, { columns }: Preview): string[] {
  const used = columnsRead(plan);
  return columns.flatMap(({ name, numeric }, i) => (used.has(i) || numeric <= 0.8 ? [] : [name]));
}

export function newSensor(
  name: string,
  plan: ImportPlan,
  scale: Partial<Record<Channel, number>>,
  taken: Iterable<string>,
  ruleSet: Sensor["ruleSet"],
  periodMs: number,
): Sensor {
  const [base] = emptyProject("").sensors;
  const { order: _, ...rest } = base;
  const kind = REPORT_KINDS.get(plan.report);
  return {
    ...rest,
    id: freeId<SensorId>(name, taken),
    name: cutName(name),
    ruleSet,
    reports: plan.report,
    periodMs,
    scale: kind.coded ? {} : Object.fromEntries(kind.channels.map((c) => [c, [0, scale[c] ?? 1]])),
  };
}

/** How long it usually takes from reading to reading, in ms; undefined where there are too few. */
export function usualPeriod(t: ArrayLike<number>): number | undefined {
  const gaps = Array.from({ length: Math.min(t.length, 2000) - 1 }, (_, i) => t[i + 1] - t[i]).filter((gap) => gap > 0);
  const middle = gaps.sort((a, b) => a - b)[gaps.length >> 1];
  return middle === undefined ? undefined : Math.max(1, Math.min(10_000, Math.round(middle)));
}

/** The paint of what a sensor reads so in a light: as near as its report tells. */
export function paintRead({ reference: _, ...sensor }: Sensor, light: Light, raw: readonly number[]): string {
  const { r, g, b, hue, reflected } = featureReader(sensor)(raw);
  if (!Number.isNaN(r)) return paintThatReads(sensor, light, [r, g, b]);
  if (!Number.isNaN(hue)) return rgbToHex(hsvToRgb(hue, 0.8, 0.8));
  const grey = Number.isNaN(reflected) ? 0.5 : reflected;
  return rgbToHex([grey, grey, grey]);
}

/** A target for a label that named none. */
export function targetFor(word: string, targets: readonly Target[], taken: Iterable<string>, paint: string): Target {
  return {
    id: freeId<TargetId>(word, taken),
    code: freeTargetCode(
      word,
      "tag",
      targets.map((t) => t.code),
    ),
    name: cutName(word),
    kind: "tag",
    paint,
  };
}
