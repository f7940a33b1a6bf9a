import fc from "fast-check";
import Papa from "papaparse";
import { expect, it } from "vitest";
import { openTable } from ".";

/** Cells of a label column, with whatever RFC 4180 lets stand between quotes. */
const text = fc.string({
  unit: fc.constantFrom("a", "Z", "9", " ", ",", ";", "\t", '"', "\n", "é", "'", "."),
  maxLength: 8,
});
const figure = fc.oneof(fc.integer({ min: 0, max: 1023 }), fc.double({ min: 0, max: 1, noNaN: true })).map(String);

/** A table as text: its delimiter, its line ends, and which cells stand in quotes though they need not. */
const tables = fc
  .record({
    delimiter: fc.constantFrom(",", ";", "\t"),
    newline: fc.constantFrom("\n", "\r\n"),
    rows: fc.array(fc.tuple(figure, figure, figure, figure, text, fc.boolean()), { minLength: 1, maxLength: 12 }),
    last: fc.boolean(),
  })
  .map(({ delimiter, newline, rows, last }) => {
    const quoted = (cell: string, always: boolean) =>
      always || cell.includes('"') || cell.includes("\n") || cell.includes(delimiter) || cell !== cell.trim()
        ? `"${cell.replaceAll('"', '""')}"`
        : cell;
    const lines = [
      ["t_ms", "r", "g", "b", "label"].join(delimiter),
      ...rows.map(([t, r, g, b, label, always]) =>
        [t, r, g, b, label].map((cell, i) => quoted(cell, always && i === 4)).join(delimiter),
      ),
    ];
    return { delimiter, text: lines.join(newline) + (last ? newline : "") };
  });

it("takes ten thousand drawn tables apart as a well-known reader does", () => {
  fc.assert(
    fc.property(tables, ({ delimiter, text }) => {
      const opened = openTable(text);
      if ("error" in opened) throw new Error(opened.error);
      expect(opened.delimiter).toBe(delimiter);
      const own = [...opened.rows()].map((row) => row.cells);
      const { data } = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: true });
      expect([opened.header, ...own]).toEqual(data.map((row) => row.map((cell) => cell.trim())));
    }),
    { numRuns: 10_000 },
  );
});
