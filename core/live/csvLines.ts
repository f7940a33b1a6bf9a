/** The names that a column of times may have, and one of sensors. */
const TIMES = ["t", "t_ms", "ms"];
const SENSORS = ["s", "sensor"];

/**
 * Readings as CSV, as the lines of a robot: a head line names the columns; `t_ms` is the time, `sensor` the sensor where
 * none is named otherwise, and all others are raw values in wire order. A row that holds no numbers becomes a line that
 * cannot be read, so that it is counted and told by its number.
 */
export function csvLines(text: string, sensor: string | undefined): { lines: string } | { problem: string } {
  const [head = "", ...rows] = text.split(/\r?\n/);
  const cells = (row: string) => row.split(",").map((cell) => cell.trim().replace(/^"(.*)"$/, "$1"));
  const names = cells(head).map((name) => name.toLowerCase());
  const time = names.findIndex((name) => TIMES.includes(name));
  const who = names.findIndex((name) => SENSORS.includes(name));
  const values = names.flatMap((_, i) => (i === time || i === who ? [] : [i]));
  if (names.some((name) => name === "" || !Number.isNaN(Number(name))))
    return { problem: "the first line names the columns, such as t_ms,r,g,b" };
  if (values.length === 0) return { problem: "no column holds values" };
  if (who < 0 && sensor === undefined)
    return { problem: "no sensor is named: say ?sensor=… behind the address, or have a column sensor" };
  const lines = rows.map((row) => {
    if (row.trim() === "") return "";
    const own = cells(row);
    const v = values.map((i) => (own[i] === undefined || own[i] === "" ? Number.NaN : Number(own[i])));
    const t = time < 0 ? undefined : Number(own[time]);
    if (v.some(Number.isNaN) || Number.isNaN(t ?? 0)) return row;
    return JSON.stringify({ s: who < 0 ? sensor : own[who], ...(t !== undefined && { t }), v });
  });
  // The head counts as a line, so that numbers of lines are those of the file.
  return { lines: `\n${lines.join("\n")}` };
}
