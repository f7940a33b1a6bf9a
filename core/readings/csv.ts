import type { RawReadings } from "./ReadingBlock";

/** The largest readings file that is read, in bytes. */
export const MAX_FILE_BYTES = 50 * 1024 * 1024;

/** Something wrong in one line; the other lines are read. */
export interface BadLine {
  line: number;
  message: string;
}

/** What a readings file held: readings, the optional label of each, and the lines that could not be read. */
export interface CsvReadings {
  readings: RawReadings;
  labels: string[] | undefined;
  unknownColumns: string[];
  bad: BadLine[];
}

const TIME = { t_ms: 1, t_s: 1000 } as const;
const KNOWN = new Set(["t_ms", "t_s", "r", "g", "b", "label", "light", "height_mm"]);

/** One record of RFC 4180: its cells, and where it started. */
interface Record_ {
  line: number;
  cells: string[];
}

/** Splits RFC 4180 text into records: quoted cells may hold commas, line ends and doubled quotes. */
function* recordsOf(text: string): Generator<Record_> {
  let line = 1;
  let at = 0;
  while (at < text.length) {
    const start = line;
    const cells: string[] = [];
    for (;;) {
      let cell = "";
      if (text[at] === '"') {
        at++;
        for (;;) {
          const quote = text.indexOf('"', at);
          const part = text.slice(at, quote < 0 ? text.length : quote);
          cell += part;
          for (const c of part) if (c === "\n") line++;
          at = quote < 0 ? text.length : quote + 1;
          if (quote < 0 || text[at] !== '"') break;
          cell += '"';
          at++;
        }
      }
      const from = at;
      while (at < text.length && text[at] !== "," && text[at] !== "\n" && text[at] !== "\r") at++;
      cells.push((cell + text.slice(from, at)).trim());
      if (text[at] !== ",") break;
      at++;
    }
    if (text[at] === "\r") at++;
    if (text[at] === "\n") at++;
    line++;
    if (cells.length > 1 || cells[0] !== "") yield { line: start, cells };
  }
}

/**
 * Reads CSV readings: a header with `t_ms` or `t_s` and `r g b` in raw values, columns in any order, optional
 * `label`. A bad cell costs its line, which is reported; the other lines are read.
 *
 * @returns the readings, or `error` with a sentence and the line where nothing can be read.
 */
export function readCsv(text: string): CsvReadings | { error: string; line: number } {
  const body = text.charCodeAt(0) === 0xfeff ? text.slice(1) : text;
  const records = recordsOf(body);
  const head = records.next();
  if (head.done) return { error: "the file is empty: a header line with t_ms, r, g and b is expected", line: 1 };
  const header = head.value.cells.map((cell) => cell.toLowerCase());
  const timeName = (Object.keys(TIME) as (keyof typeof TIME)[]).find((name) => header.includes(name));
  const missing = [
    timeName ? "" : "t_ms (or t_s)",
    ...["r", "g", "b"].map((c) => (header.includes(c) ? "" : c)),
  ].filter(Boolean);
  if (missing.length > 0 || timeName === undefined) {
    return {
      error: `the header has no column ${missing.join(", ")}; it reads “${head.value.cells.slice(0, 8).join(",")}”`,
      line: head.value.line,
    };
  }
  const wanted = [timeName, "r", "g", "b"].map((name) => ({ name, at: header.indexOf(name) }));
  const labelAt = header.indexOf("label");
  const rows: number[][] = [[], [], [], []];
  const labels: string[] = [];
  const bad: BadLine[] = [];
  let last = Number.NEGATIVE_INFINITY;
  for (const { line, cells } of records) {
    const values: number[] = [];
    let message = "";
    for (const { name, at } of wanted) {
      const cell = cells[at] ?? "";
      const value = cell === "" ? Number.NaN : Number(cell);
      if (!Number.isFinite(value) && message === "") {
        message =
          cell === ""
            ? `column ${name} is empty`
            : `column ${name} holds “${cell.slice(0, 20)}”, which is not a number`;
      }
      values.push(value);
    }
    values[0] *= TIME[timeName];
    if (message === "" && values[0] < last) message = `time goes back from ${last} to ${values[0]} ms`;
    if (message !== "") {
      bad.push({ line, message });
      continue;
    }
    last = values[0];
    for (let i = 0; i < 4; i++) rows[i].push(values[i]);
    if (labelAt >= 0) labels.push(cells[labelAt] ?? "");
  }
  const [t, r, g, b] = rows.map((row) => Float64Array.from(row));
  return {
    readings: { t, channels: { r, g, b } },
    labels: labelAt >= 0 ? labels : undefined,
    unknownColumns: header.filter((name) => !KNOWN.has(name)),
    bad,
  };
}

/** Readings as CSV with `t_ms,r,g,b` in the sensor's raw scale. */
export function writeCsv({ t, channels }: RawReadings): string {
  const lines = ["t_ms,r,g,b"];
  for (let i = 0; i < t.length; i++) lines.push(`${t[i]},${channels.r[i]},${channels.g[i]},${channels.b[i]}`);
  return `${lines.join("\r\n")}\r\n`;
}
