import { MAX_READINGS } from "../names";
import { columnsRead, guessPlan, type ImportPlan, lookAt } from "./importPlan";
import type { RawReadings } from "./rawReadings";
import type { Channel } from "./report";
import { REPORT_KINDS, type Report } from "./reportKinds";
import { numberIn, numberOf, openTable, type Table, type TableError, wrongRow } from "./table";

/** Something wrong in one line; the other lines are read. */
export interface BadLine {
  line: number;
  message: string;
}

/** What a readings file held: readings, what is noted beside each, and the lines that could not be read. */
export interface TableReadings {
  readings: RawReadings;
  labels: string[] | undefined;
  lights: string[] | undefined;
  heights: number[] | undefined;
  unknownColumns: string[];
  /** The lines left out; at most `MOST_BAD` are described, all are counted. */
  bad: BadLine[];
  badCount: number;
  /** Readings that have the time of the one before. */
  repeatedTimes: number;
}

/** So many bad lines are described one by one. */
export const MOST_BAD = 1000;

/** A column of numbers that grows. */
class Growing {
  private values = new Float64Array(1024);
  length = 0;

  push(value: number): void {
    if (this.length === this.values.length) {
      const larger = new Float64Array(2 * this.length);
      larger.set(this.values);
      this.values = larger;
    }
    this.values[this.length++] = value;
  }

  pop(): void {
    this.length--;
  }

  /** The value so many places before the end; −∞ before the first. */
  before(places: number): number {
    return places < this.length ? this.values[this.length - 1 - places] : Number.NEGATIVE_INFINITY;
  }

  done(): Float64Array<ArrayBuffer> {
    return this.values.slice(0, this.length);
  }
}

/** Rows between two reports of progress. */
const REPORT_EVERY = 20_000;

/**
 * Reads a table by a plan. A bad cell costs its row, which is reported with its line; the other rows are read.
 * Times must not go backwards; the first kept row of a table whose times are taken from the rows is at 0.
 */
export function readTable(
  table: Table,
  plan: ImportPlan,
  onProgress?: (share: number) => void,
): TableReadings | TableError {
  const { channels } = REPORT_KINDS.get(plan.report);
  const missing = channels.filter((channel) => plan.channels[channel] === undefined);
  if (missing.length > 0) return { error: `no column is chosen for ${missing.join(", ")}`, line: table.headerLine };
  const wanted = channels.map((channel) => plan.channels[channel] as number);
  const columns = wanted.map(() => new Growing());
  const t = new Growing();
  const labels: string[] = [];
  const lights: string[] = [];
  const heights: number[] = [];
  const bad: BadLine[] = [];
  const values = new Float64Array(wanted.length);
  let badCount = 0;
  let repeatedTimes = 0;
  let lastLine = 0;
  let rows = 0;
  const leaveOut = (line: number, message: string) => {
    badCount++;
    if (bad.length < MOST_BAD) bad.push({ line, message });
  };
  for (const row of table.rows()) {
    const { line, cells, end } = row;
    if (++rows % REPORT_EVERY === 0) onProgress?.(end / table.size);
    if (t.length >= MAX_READINGS)
      return { error: `the file has more than ${MAX_READINGS} readings, the most that one tape may hold`, line };
    if (plan.only !== undefined && (cells[plan.only.column] ?? "") !== plan.only.name) continue;
    let message = wrongRow(table, row) ?? "";
    const cellNumber = (column: number) => {
      const value = numberIn(table, cells, column);
      if (typeof value === "number") return value;
      if (message === "") message = value;
      return Number.NaN;
    };
    let time = "everyMs" in plan.time ? t.length * plan.time.everyMs : cellNumber(plan.time.column);
    if ("unitMs" in plan.time) time *= plan.time.unitMs;
    for (let i = 0; i < wanted.length && message === ""; i++) values[i] = cellNumber(wanted[i]);
    // A single time that leaps ahead is what is wrong, not all that follow it.
    if (message === "" && time < t.before(0) && leaps(t.before(1), t.before(0), time)) {
      leaveOut(lastLine, `its time, ${t.before(0)} ms, lies far ahead of the lines that follow`);
      for (const column of [t, ...columns]) column.pop();
      for (const noted of [labels, lights, heights]) if (noted.length > t.length) noted.pop();
    }
    if (message === "" && time < t.before(0)) message = `time goes back from ${t.before(0)} to ${time} ms`;
    if (message !== "") {
      leaveOut(line, message);
      continue;
    }
    if (time === t.before(0)) repeatedTimes++;
    lastLine = line;
    t.push(time);
    for (let i = 0; i < wanted.length; i++) columns[i].push(values[i]);
    if (plan.label !== undefined) labels.push(cells[plan.label] ?? "");
    if (plan.light !== undefined) lights.push(cells[plan.light] ?? "");
    if (plan.height !== undefined) heights.push(numberOf(cells[plan.height] ?? "", table.decimalComma) ?? Number.NaN);
  }
  const used = columnsRead(plan);
  return {
    readings: {
      t: t.done(),
      channels: Object.fromEntries(channels.map((channel, i) => [channel, columns[i].done()])),
    },
    labels: plan.label === undefined ? undefined : labels,
    lights: plan.light === undefined ? undefined : lights,
    heights: plan.height === undefined ? undefined : heights,
    unknownColumns: table.header.filter((_, i) => !used.has(i)),
    bad: bad.sort((a, b) => a.line - b.line),
    badCount,
    repeatedTimes,
  };
}

/** So far ahead is no gap between readings, in ms. */
const LEAP_MS = 1000;

/** Whether a time lies so far ahead of the one before it that the next one, which goes on from there, must be right. */
const leaps = (before: number, time: number, next: number) =>
  next >= before &&
  time - next > LEAP_MS &&
  (before === Number.NEGATIVE_INFINITY || time - before > 10 * (next - before));

const TIME = { t_ms: 1, t_s: 1000 } as const;

/**
 * Reads the readings of a sensor from a file whose columns have their proper names: `t_ms` or `t_s`, the channels of
 * the report, and optional `label`, `light`, `height_mm`, in any order.
 *
 * @returns the readings, or `error` with a sentence and the line where nothing can be read.
 */
export function readReadings(text: string, report: Report, format?: "csv" | "jsonl"): TableReadings | TableError {
  const { channels } = REPORT_KINDS.get(report);
  const table = openTable(text, format);
  const expected = `t_ms, ${channels.join(", ")}`;
  if ("error" in table)
    return text.trim() === ""
      ? { ...table, error: `the file is empty: a header line with ${expected} is expected` }
      : table;
  const header = table.header.map((cell) => cell.toLowerCase());
  const timeName = (Object.keys(TIME) as (keyof typeof TIME)[]).find((name) => header.includes(name));
  // Other usual names are understood where all that is needed has one.
  const guessed = guessPlan(table, lookAt(table), report);
  const named = guessed.report === report && channels.every((channel) => guessed.channels[channel] !== undefined);
  const known = (channel: Channel) => header.includes(channel);
  if (named && table.header.length > 0 && "column" in guessed.time && !(timeName && channels.every(known)))
    return readTable(table, guessed);
  const missing = [...(timeName ? [] : ["t_ms (or t_s)"]), ...channels.filter((channel) => !header.includes(channel))];
  if (missing.length > 0 || timeName === undefined) {
    const line = Math.max(1, table.headerLine);
    const reads = table.header.slice(0, 8).join(",") || firstCells(table);
    return { error: `the header has no column ${missing.join(", ")}; it reads “${reads}”`, line };
  }
  const at = (name: string) => (header.includes(name) ? header.indexOf(name) : undefined);
  const [label, light, height] = [at("label"), at("light"), at("height_mm")];
  return readTable(table, {
    report,
    channels: Object.fromEntries(channels.map((channel): [Channel, number] => [channel, header.indexOf(channel)])),
    time: { column: header.indexOf(timeName), unitMs: TIME[timeName] },
    ...(label !== undefined && { label }),
    ...(light !== undefined && { light }),
    ...(height !== undefined && { height }),
  });
}

function firstCells(table: Table): string {
  for (const { cells } of table.rows()) return cells.slice(0, 8).join(",");
  return "";
}
