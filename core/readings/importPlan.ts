import { type Channel, REPORT_KINDS, REPORTS, type Report } from "./report";
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
}

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
}

/** Rows that are looked at. */
const LOOK_AT = 2000;
const SAMPLE = 6;

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
    };
  });
  const last = looks.map(() => -Infinity);
  let n = 0;
  for (const { cells } of table.rows()) {
    if (n++ >= LOOK_AT) break;
    looks.forEach((look, i) => {
      const cell = cells[i] ?? "";
      if (look.sample.length < SAMPLE) look.sample.push(cell);
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

const ALIASES: Record<Channel, readonly string[]> = {
  r: ["r", "red"],
  g: ["g", "green"],
  b: ["b", "blue"],
  c: ["c", "clear"],
  h: ["h", "hue"],
  s: ["s", "sat", "saturation"],
  v: ["v", "val", "value", "brightness"],
  hue: ["hue", "h"],
  reflected: ["reflected", "reflection", "intensity"],
  code: ["code", "colour_code", "color_code"],
};
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
  const byName = (report: Report) => REPORT_KINDS[report].channels.map((channel) => at(ALIASES[channel]));
  const fits = (report: Report) => byName(report).every((i) => i >= 0);
  // The kind with the most channels that all have their column; the preferred one if it has.
  const kinds = [...REPORTS].sort((a, b) => REPORT_KINDS[b].channels.length - REPORT_KINDS[a].channels.length);
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
    REPORT_KINDS[report].channels.flatMap((channel, i) => (columns[i] === undefined ? [] : [[channel, columns[i]]])),
  );
  return {
    report,
    channels,
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

/** The scale that values up to `max` most probably are on: the first usual one that holds them. */
export function guessScale(channel: Channel, max: number): [number, number] {
  const isHue = channel === "hue" || channel === "h";
  const ends = USUAL_SCALES.filter((end) => (isHue ? end === 1 || end === 255 || end === 360 : end !== 360));
  return [0, ends.find((end) => max <= end) ?? Math.ceil(max)];
}
