import * as z from "zod";
import type { BadLine } from "./csv";
import type { RawReadings } from "./ReadingBlock";

const Line = z.object({ t_ms: z.number(), r: z.number(), g: z.number(), b: z.number() });

/**
 * Reads one JSON object a line, `{"t_ms":0,"r":1,"g":2,"b":3}`. A bad line is reported and the others are read.
 */
export function readJsonLines(text: string): { readings: RawReadings; bad: BadLine[] } {
  const rows: z.infer<typeof Line>[] = [];
  const bad: BadLine[] = [];
  text.split("\n").forEach((line, i) => {
    if (line.trim() === "") return;
    const row = Line.safeParse(parsed(line));
    if (!row.success) bad.push({ line: i + 1, message: "an object with the numbers t_ms, r, g and b is expected" });
    else if (rows.length > 0 && row.data.t_ms < rows[rows.length - 1].t_ms)
      bad.push({ line: i + 1, message: "time goes backwards" });
    else rows.push(row.data);
  });
  const column = (name: "t_ms" | "r" | "g" | "b") => Float64Array.from(rows, (row) => row[name]);
  return { readings: { t: column("t_ms"), channels: { r: column("r"), g: column("g"), b: column("b") } }, bad };
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return undefined;
  }
}
