import { CHANNEL_FACTS, type Channel } from "./report";
import { REPORT_KINDS, type Report } from "./reportKinds";
import { numberOf, type Table } from "./table";

/** Which column of a table holds what. */
export interface ImportPlan {
  report: Report;
  channels: Partial<Record<Channel, number>>;
  /** The column of the time and how many ms its unit has; or, without one, the time from row to row. */
  time: { column: number; unitMs: number } | { everyMs: number };
  label?: number;
  light?: number;
  height?: number;
  /** The rows to read of a table with several sensors: those with this name in that column. */
  only?: { column: number; name: string };
}

/** The columns that a plan reads. */
export const columnsRead = ({
  channels,
  time,
  label,
  light,
  height,
  only,
}: ImportPlan): ReadonlySet<number | undefined> =>
  new Set([...Object.values(channels), "column" in time ? time.column : undefined, label, light, height, only?.column]);

/** What a column holds, as far as its first rows show. */
export interface ColumnLook {
  name: string;
  /** The first few cells as they stand. */
  sample: string[];
  /** The share of cells that are numbers. */
  numeric: number;
  min: number;
  max: number;
  /** Whether no number is less than the one before. */
  rising: boolean;
  /** The names in a column that is named as a sensor's, each once. */
  sensors: string[];
}

/** Rows that are looked at. */
const LOOK_AT = 2000;
const SAMPLE = 6;
/** The header of a column that says whose reading a row is, and the most names of it that are told. */
const NAMES_SENSOR = /^(sensor|eye|device)([ _-]?(id|name))?$/i;
const MOST_SENSORS = 50;

/** Looks at the columns of a table. */
export function lookAt(table: Table): ColumnLook[] {
  const looks = Array.from({ length: table.columns }, (_, i): ColumnLook => {
    return {
      name: table.header[i] ?? `column ${i + 1}`,
      sample: [],
      numeric: 0,
      min: Infinity,
      max: -Infinity,
      rising: true,
      sensors: [],
    };
  });
  const last = looks.map(() => -Infinity);
  let n = 0;
  for (const { cells } of table.rows()) {
    if (n++ >= LOOK_AT) break;
    looks.forEach((look, i) => {
      const cell = cells[i] ?? "";
      if (look.sample.length < SAMPLE) look.sample.push(cell);
      if (
        NAMES_SENSOR.test(look.name) &&
        cell !== "" &&
        look.sensors.length < MOST_SENSORS &&
        !look.sensors.includes(cell)
      )
        look.sensors.push(cell);
      const value = numberOf(cell, table.decimalComma);
      if (value === undefined) return;
      look.numeric++;
      look.min = Math.min(look.min, value);
      look.max = Math.max(look.max, value);
      if (value < last[i]) look.rising = false;
      last[i] = value;
    });
  }
  const rows = Math.min(n, LOOK_AT);
  for (const look of looks) look.numeric = rows === 0 ? 0 : look.numeric / rows;
  return looks;
}

/** Units of time as headers write them, with how many ms each has. */
const UNITS: readonly [RegExp, number][] = [
  [/^(ms|msec|millis|milliseconds?)$/, 1],
  [/^(s|sec|secs|seconds?)$/, 1000],
  [/^(us|µs|μs|usec|micros|microseconds?)$/, 0.001],
];

/** What a column's name says of time: the ms of its unit, 0 where it is a time without one; undefined where it is none. */
export function timeNamed(name: string): number | undefined {
  const words = name
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== "" && word !== "in");
  const [first, second] = words;
  const isTime = ["t", "time", "timestamp", "clock", "elapsed"].includes(first);
  const unit = (word: string | undefined) => UNITS.find(([form]) => word !== undefined && form.test(word))?.[1];
  if (isTime && words.length === 1) return 0;
  if (isTime && words.length === 2) return unit(second);
  return words.length === 1 && first !== "s" && first !== "t" ? unit(first) : undefined;
}
const ROLES = { label: ["label", "target", "truth"], light: ["light"], height: ["height_mm", "height"] } as const;

/** What a table most probably holds, read by its names or, without any, by its numbers; `prefer` wins where it fits. */
export function guessPlan(table: Table, looks: readonly ColumnLook[], prefer?: Report, everyMs = 20): ImportPlan {
  const names = looks.map((look) => look.name.toLowerCase());
  const at = (words: readonly string[]) => names.findIndex((name) => words.includes(name));
  const byName = (report: Report) =>
    REPORT_KINDS.get(report).channels.map((channel) => at(CHANNEL_FACTS[channel].words));
  const fits = (report: Report) => byName(report).every((i) => i >= 0);
  // The kind with the most channels that all have their column; the preferred one if it has.
  const kinds = REPORT_KINDS.entries.sort((a, b) => b.channels.length - a.channels.length).map(({ key }) => key);
  const named = prefer !== undefined && fits(prefer) ? prefer : kinds.find(fits);
  const roles = Object.fromEntries(
    Object.entries(ROLES).flatMap(([role, words]) => (at(words) >= 0 ? [[role, at(words)]] : [])),
  );
  // One that names its unit before one that does not.
  const times = names.map(timeNamed);
  let timeColumn = times.findIndex((unit) => unit !== undefined && unit > 0);
  if (timeColumn < 0) timeColumn = times.indexOf(0);
  if (named === undefined && timeColumn < 0)
    timeColumn = looks.findIndex((look) => look.numeric > 0.8 && look.rising && look.max > look.min);
  const numeric = looks.flatMap((look, i) =>
    look.numeric > 0.8 && i !== timeColumn && !Object.values(roles).includes(i) ? [i] : [],
  );
  const report = named ?? prefer ?? (numeric.length >= 3 ? "rgb" : "reflected");
  const columns = named === undefined ? numeric : byName(named);
  const channels = Object.fromEntries(
    REPORT_KINDS.get(report).channels.flatMap((channel, i) =>
      columns[i] === undefined ? [] : [[channel, columns[i]]],
    ),
  );
  const several = looks.findIndex((look) => look.sensors.length > 1);
  return {
    report,
    channels,
    ...(several >= 0 && { only: { column: several, name: looks[several].sensors[0] } }),
    time: timeColumn < 0 ? { everyMs } : { column: timeColumn, unitMs: times[timeColumn] || unitOf(table, timeColumn) },
    ...roles,
  };
}

/** The unit of a time column, from its usual step: under a half are seconds, from a thousand on microseconds. */
function unitOf(table: Table, column: number): number {
  const steps: number[] = [];
  let last: number | undefined;
  for (const { cells } of table.rows()) {
    const t = numberOf(cells[column] ?? "", table.decimalComma);
    if (t !== undefined && last !== undefined && t > last) steps.push(t - last);
    last = t ?? last;
    if (steps.length > 200) break;
  }
  const usual = steps.sort((a, b) => a - b)[steps.length >> 1] ?? 20;
  return usual < 0.5 ? 1000 : usual >= 1000 ? 0.001 : 1;
}

/** The scales that sensors usually have, by their ends. */
export const USUAL_SCALES = [1, 100, 255, 360, 1023, 4095, 65_535] as const;
/** The scales of hues: some programs halve the degrees, so that they fit a byte. */
export const HUE_SCALES = [1, 100, 180, 255, 360] as const;

/**
 * The scales that values up to these most probably are on: the first usual one that holds them, looked at together:
 * hues beside percentages are in degrees, beside bytes they may be halved degrees.
 */
export function guessScales(maxima: Partial<Record<Channel, number>>): Partial<Record<Channel, number>> {
  const usual = (max: number) => USUAL_SCALES.find((end) => end !== 360 && max <= end) ?? Math.ceil(max);
  const { h, hue = h, s = 0, v = 0, ...others } = maxima;
  const ends: Partial<Record<Channel, number>> = {};
  const widest = usual(Math.max(0, ...Object.values(others)));
  // Colours of one sensor share a scale.
  for (const [channel, max] of Object.entries(others) as [Channel, number][])
    ends[channel] = ["r", "g", "b", "c"].includes(channel) ? widest : usual(max);
  if (h !== undefined) ends.s = ends.v = usual(Math.max(s, v));
  if (hue !== undefined) {
    const inBytes = h !== undefined && ends.s === 255;
    const own = inBytes ? HUE_SCALES.filter((end) => end >= 180) : h === undefined ? [1, 255, 360] : [1, 360];
    ends[h === undefined ? "hue" : "h"] = own.find((end) => hue <= end) ?? Math.ceil(hue);
  }
  return ends;
}
