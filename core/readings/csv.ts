import type { RawReadings } from "./rawReadings";

/** What is noted beside a reading. */
export interface BesideReading {
  label: string;
  light: string;
  height: number | undefined;
}

const quoted = (cell: string) => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);

/**
 * Readings as CSV: `t_ms`, the channels in the sensor's raw scale and, where `noted` is given, `label`, `light` and
 * `height_mm` of each reading.
 */
export function writeCsv({ t, channels }: RawReadings, noted?: (index: number) => BesideReading | undefined): string {
  const names = Object.keys(channels);
  const columns = Object.values(channels);
  const lines = [["t_ms", ...names, ...(noted ? ["label", "light", "height_mm"] : [])].join(",")];
  for (let i = 0; i < t.length; i++) {
    let line = String(t[i]);
    for (const column of columns) line += `,${column[i]}`;
    if (noted) {
      const note = noted(i);
      line += note ? `,${quoted(note.label)},${quoted(note.light)},${note.height ?? ""}` : ",,,";
    }
    lines.push(line);
  }
  return `${lines.join("\r\n")}\r\n`;
}
