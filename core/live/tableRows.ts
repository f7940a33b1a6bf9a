import { numberIn, openTable, timeNamed, wrongRow } from "../readings";
import { LineSplitter, MOST_LINE_BYTES } from "./protocol";

/** A line of what was sent, by its number: what a robot says by it, or why it cannot be taken. */
export type SentRow = { line: number; said: string } | { line: number; error: string };

/** Columns that name the sensor, and those that are no values of it. */
const SENSORS = ["sensor"];
const NOTED = ["label", "target", "truth", "light", "height_mm", "height"];

/** The lines of a robot's text. */
export function* lineRows(text: string): Generator<SentRow> {
  const rows: SentRow[] = [];
  const splitter = new LineSplitter((said, line) =>
    rows.push(said === null ? { line, error: `the line has more than ${MOST_LINE_BYTES} bytes` } : { line, said }),
  );
  for (let from = 0; from < text.length; from += MOST_LINE_BYTES) {
    splitter.feed(text.slice(from, from + MOST_LINE_BYTES));
    yield* rows.splice(0);
  }
  splitter.end();
  yield* rows;
}

/**
 * Readings as a table (commas, semicolons or tabs), as the lines of a robot. The header names the columns: one of time,
 * such as `t_ms` or `t_s`; `sensor` where none is named otherwise; all others hold raw values in wire order.
 */
export function tableRows(text: string, sensor: string | undefined): { rows: Iterable<SentRow> } | { problem: string } {
  const table = openTable(text, "csv");
  if ("error" in table) return { problem: table.error };
  const names = table.header.map((name) => name.toLowerCase());
  if (names.length === 0 || names.includes(""))
    return { problem: "the first line names the columns, such as t_ms,r,g,b" };
  const time = names.findIndex((name) => timeNamed(name) !== undefined);
  const unitMs = timeNamed(names[time] ?? "") || 1;
  const who = names.findIndex((name) => SENSORS.includes(name) || (name === "s" && !names.includes("v")));
  const values = names.flatMap((name, i) => (i === time || i === who || NOTED.includes(name) ? [] : [i]));
  if (values.length === 0) return { problem: "no column holds values" };
  if (who < 0 && sensor === undefined)
    return { problem: "no sensor is named: say ?sensor=… behind the address, or have a column sensor" };
  function* rows(): Generator<SentRow> {
    if ("error" in table) return;
    for (const row of table.rows()) {
      const { line, cells } = row;
      const t = time < 0 ? undefined : numberIn(table, cells, time);
      const v = values.map((column) => numberIn(table, cells, column));
      const error = wrongRow(table, row) ?? [t, ...v].find((value) => typeof value === "string");
      if (error !== undefined) yield { line, error };
      else {
        const at = t === undefined ? {} : { t: (t as number) * unitMs };
        yield { line, said: JSON.stringify({ s: who < 0 ? sensor : cells[who], ...at, v }) };
      }
    }
  }
  return { rows: rows() };
}
