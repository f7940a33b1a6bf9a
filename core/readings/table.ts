/** The largest readings file that is read, in bytes. */
export const MAX_FILE_BYTES = 50 * 1024 * 1024;
/** The most columns that a readings file may have. */
export const MAX_COLUMNS = 200;

/** One row of a table: its cells, and the line at which it starts. */
export interface TableRow {
  line: number;
  cells: string[];
  /** Where the text of the row ends, for progress. */
  end: number;
  /** Why it cannot be taken apart; it has no cells then. */
  problem?: string;
}

/** Text taken apart into named columns and rows. */
export interface Table {
  format: "csv" | "jsonl";
  /** What stands between cells of delimited text. */
  delimiter: string;
  /** Whether numbers are written with a comma, `0,5`. */
  decimalComma: boolean;
  /** The columns' names; empty where the text has no header. */
  header: string[];
  headerLine: number;
  /** Lines that stand above the header and hold nothing to read. */
  above: number[];
  columns: number;
  /** Size of the text in characters. */
  size: number;
  /** All rows from the first below the header on; may be run through several times. */
  rows(): Generator<TableRow>;
}

/** Nothing can be read from a text: why, and at which line. */
export interface TableError {
  error: string;
  line: number;
}

const EMPTY = "the file is empty: a header line and at least one row are expected";

/** Takes a text apart: delimited by comma, semicolon or tab (RFC 4180), or one JSON object a line. */
export function openTable(text: string, format?: "csv" | "jsonl"): Table | TableError {
  const bare = text.charCodeAt(0) === 0xfeff ? text.slice(1) : text;
  // Old files end their lines with a carriage return alone.
  const body = bare.includes("\r") && !bare.includes("\n") ? bare.replaceAll("\r", "\n") : bare;
  if (body.trim() === "") return { error: EMPTY, line: 1 };
  const table = (format ?? (/^\s*\{/.test(body) ? "jsonl" : "csv")) === "jsonl" ? jsonTable(body) : csvTable(body);
  if ("error" in table) return table;
  if (table.columns > MAX_COLUMNS)
    return {
      error: `the header has ${table.columns} columns; at most ${MAX_COLUMNS} are read`,
      line: table.headerLine,
    };
  return table;
}

/** Rows that are looked at to find delimiter and header. */
const LOOK_AT = 25;

function csvTable(text: string): Table | TableError {
  const delimiter = delimiterOf(text);
  const first = take(recordsOf(text, delimiter), LOOK_AT);
  if (first.length === 0) return { error: EMPTY, line: 1 };
  const decimalComma =
    delimiter !== "," &&
    first.some((r) => r.cells.some((c) => /^-?\d+,\d+$/.test(c))) &&
    !/\d\.\d/.test(text.slice(0, 4000));
  const isNumeric = ({ cells }: TableRow) =>
    cells.filter((c) => numberOf(c, decimalComma) !== undefined).length * 2 >= cells.length;
  const firstNumeric = first.findIndex(isNumeric);
  const before = firstNumeric < 0 ? first : first.slice(0, firstNumeric);
  // Of several lines above the numbers, the header is the one with the most names that are known.
  const header = before.reduce<TableRow | undefined>(
    (best, row) => (best === undefined || knownNames(row.cells) > knownNames(best.cells) ? row : best),
    undefined,
  );
  const headerLine = header?.line ?? 0;
  return {
    format: "csv",
    delimiter,
    decimalComma,
    header: header?.cells ?? [],
    headerLine,
    above: before.filter((row) => row.line < headerLine).map((row) => row.line),
    columns: Math.max(...first.map((row) => row.cells.length)),
    size: text.length,
    *rows() {
      for (const row of recordsOf(text, delimiter, header?.cells.length)) if (row.line > headerLine) yield row;
    },
  };
}

function jsonTable(text: string): Table | TableError {
  // Not every object has all columns: a label may stand in the last one only.
  const found = new Set<string>();
  let headerLine = 0;
  let line = 0;
  for (const part of text.split("\n")) {
    line++;
    const row = objectOf(part);
    if (row === undefined) continue;
    if (headerLine === 0) headerLine = line;
    for (const name of Object.keys(row)) if (found.size <= MAX_COLUMNS) found.add(name);
  }
  if (headerLine === 0) return { error: 'no line holds a JSON object such as {"t_ms":0,"r":1}', line: 1 };
  const names = [...found];
  return {
    format: "jsonl",
    delimiter: "",
    decimalComma: false,
    header: names,
    headerLine,
    above: [],
    columns: names.length,
    size: text.length,
    *rows() {
      let at = 0;
      for (let n = 1; at < text.length; n++) {
        const next = text.indexOf("\n", at);
        const end = next < 0 ? text.length : next;
        const part = text.slice(at, end);
        at = end + 1;
        if (part.trim() === "") continue;
        const row = objectOf(part);
        yield row === undefined
          ? { line: n, cells: [], end, problem: "this is not a JSON object" }
          : { line: n, cells: names.map((name) => cellText(row[name])), end };
      }
    },
  };
}

const cellText = (value: unknown) =>
  value === undefined || value === null ? "" : typeof value === "object" ? JSON.stringify(value) : String(value);

function objectOf(line: string): Record<string, unknown> | undefined {
  try {
    const value: unknown = JSON.parse(line);
    return typeof value === "object" && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : undefined;
  } catch {
    return undefined;
  }
}

const NAMES = new Set(
  (
    "t_ms t_s t time timestamp ms millis seconds r g b c red green blue clear h s v hue sat val saturation value " +
    "reflected code label target light height_mm"
  ).split(" "),
);
const knownNames = (cells: readonly string[]) => cells.filter((c) => NAMES.has(c.toLowerCase())).length;

/** Numbers beyond this are no readings and no times. */
const LARGEST = 1e12;
const DECIMAL = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/** The number in a cell; undefined where there is none. `0,5` counts only where numbers are written so. */
export function numberOf(cell: string, decimalComma: boolean): number | undefined {
  const written = decimalComma ? cell.replace(",", ".") : cell;
  const value = DECIMAL.test(written) ? Number(written) : Number.NaN;
  return Math.abs(value) <= LARGEST ? value : undefined;
}

/** The number in a cell of a row, or why there is none, as a sentence's beginning. */
export function numberIn(
  { header, decimalComma }: Pick<Table, "header" | "decimalComma">,
  cells: readonly string[],
  column: number,
): number | string {
  const cell = cells[column] ?? "";
  const value = numberOf(cell, decimalComma);
  if (value !== undefined) return value;
  const name = header[column] ?? `column ${column + 1}`;
  if (cell === "") return `column ${name} is empty`;
  const point = /^-?\d+,\d+$/.test(cell) ? "; numbers here are written with a point" : "";
  return `column ${name} holds “${cell.slice(0, 20)}”, which is not a number${point}`;
}

/** Says why a row cannot be taken as a whole; undefined for one that can. */
export function wrongRow({ header }: Pick<Table, "header">, { cells, problem }: TableRow): string | undefined {
  if (problem !== undefined) return problem;
  let n = cells.length;
  while (n > 0 && cells[n - 1] === "") n--;
  return header.length > 0 && n > header.length ? `this line has ${n} values for ${header.length} columns` : undefined;
}

/** What most of the first lines hold; of several the tab before the semicolon before the comma, which may be within numbers. */
function delimiterOf(text: string): string {
  // What stands in quotes parts no cells.
  const lines = text
    .slice(0, 20_000)
    .replace(/"[^"]*"/g, "")
    .split("\n", LOOK_AT)
    .filter((line) => line.trim() !== "");
  const linesWith = (delimiter: string) => lines.filter((line) => line.includes(delimiter)).length;
  const [tab, semicolon, comma] = ["\t", ";", ","].map(linesWith);
  if (tab >= semicolon && tab >= comma && tab * 2 >= lines.length) return "\t";
  return semicolon >= comma && semicolon * 2 >= lines.length ? ";" : ",";
}

function take<T>(items: Iterable<T>, most: number): T[] {
  const taken: T[] = [];
  for (const item of items) if (taken.push(item) >= most) break;
  return taken;
}

/**
 * Splits RFC 4180 text into records: quoted cells may hold delimiters, line ends and doubled quotes. A line whose
 * quotes are wrong costs itself alone: where a quote is not closed, or runs over line ends into a record that has not
 * the `width` of the header, the next line is read as if it were not there.
 */
function* recordsOf(text: string, delimiter: string, width?: number): Generator<TableRow> {
  let line = 1;
  let at = 0;
  while (at < text.length) {
    const next = text.indexOf("\n", at);
    const end = next < 0 ? text.length : next;
    const part = text.slice(at, text[end - 1] === "\r" ? end - 1 : end);
    if (!part.includes('"')) {
      if (part.trim() !== "") {
        const cells = part.split(delimiter);
        yield { line, cells: /\s/.test(part) ? cells.map((cell) => cell.trim()) : cells, end };
      }
      at = end + 1;
      line++;
    } else {
      const record = quotedRecord(text, at, delimiter);
      const problem =
        record.problem ??
        (record.lines > 1 && width !== undefined && record.cells.length !== width
          ? "a quote that begins in this line is not closed in it"
          : undefined);
      if (problem === undefined) {
        yield { line, cells: record.cells, end: record.end };
        at = record.end + 1;
        line += record.lines;
      } else {
        yield { line, cells: [], end, problem };
        at = end + 1;
        line++;
      }
    }
  }
}

function quotedRecord(
  text: string,
  from: number,
  delimiter: string,
): { cells: string[]; end: number; lines: number; problem?: string } {
  const cells: string[] = [];
  let lines = 1;
  let at = from;
  for (;;) {
    let cell = "";
    const quoted = text[at] === '"';
    if (quoted) {
      at++;
      for (;;) {
        const quote = text.indexOf('"', at);
        const part = text.slice(at, quote < 0 ? text.length : quote);
        cell += part;
        for (const c of part) if (c === "\n") lines++;
        if (quote < 0)
          return { cells: [], end: text.length, lines, problem: "a quote that begins in this line is never closed" };
        at = quote + 1;
        if (text[at] !== '"') break;
        cell += '"';
        at++;
      }
    }
    const start = at;
    while (at < text.length && text[at] !== delimiter && text[at] !== "\n") at++;
    const behind = text.slice(start, at);
    if (quoted && behind.trim() !== "")
      return { cells: [], end: at, lines, problem: `behind a quoted cell stands “${behind.trim().slice(0, 20)}”` };
    cells.push((cell + behind).trim());
    if (text[at] !== delimiter) return { cells, end: at, lines };
    at++;
  }
}
