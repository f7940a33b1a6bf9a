import {
  type ColumnLook,
  guessPlan,
  type ImportPlan,
  type Light,
  lookAt,
  openTable,
  type RawReadings,
  type Report,
  readTable,
  type Table,
  type TableError,
  type TableReadings,
} from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
import { type Labelled, marksOfLabels } from "@perceptum/core/teaching";
import { expose } from "comlink";

/** What a text looks like, before anything is read. */
export interface Preview {
  columns: ColumnLook[];
  plan: ImportPlan;
  headerLine: number;
  above: number[];
}

/** What was read by a plan. */
export interface ImportResult extends Pick<TableReadings, "bad" | "badCount" | "repeatedTimes"> {
  readings: RawReadings;
  labelled: Labelled | null;
}

let table: Table | null = null;
let last: TableReadings | null = null;

const worker = {
  open(text: string, prefer: Report, everyMs: number): Preview | TableError {
    const opened = openTable(text);
    if ("error" in opened) return opened;
    table = opened;
    const columns = lookAt(opened);
    return {
      columns,
      plan: guessPlan(opened, columns, prefer, everyMs),
      headerLine: opened.headerLine,
      above: opened.above,
    };
  },

  read(
    plan: ImportPlan,
    targets: readonly Target[],
    lights: readonly Light[],
    onProgress: (share: number) => void,
  ): ImportResult | TableError {
    if (table === null) return { error: "nothing is open", line: 0 };
    const read = readTable(table, plan, onProgress);
    if ("error" in read) return read;
    last = read;
    const { readings, bad, badCount, repeatedTimes } = read;
    return { readings, bad, badCount, repeatedTimes, labelled: worker.marks(targets, lights) };
  },

  /** The marks that the labels of what was read last give for these targets. */
  marks(targets: readonly Target[], lights: readonly Light[]): Labelled | null {
    if (last?.labels === undefined) return null;
    const { readings, labels } = last;
    return marksOfLabels(readings.t, labels, targets, lights, {
      ...(last.lights && { lights: last.lights }),
      ...(last.heights && { heights: last.heights }),
    });
  },

  /** The mean raw values of the readings with each of these labels, in the order of the report's channels. */
  means(words: readonly string[]): number[][] {
    if (last?.labels === undefined) return [];
    const { labels, readings } = last;
    const columns = Object.values(readings.channels);
    return words.map((word) => {
      const sums = columns.map(() => 0);
      let n = 0;
      labels.forEach((label, i) => {
        if (label !== word) return;
        n++;
        for (let c = 0; c < sums.length; c++) sums[c] += columns[c][i];
      });
      return sums.map((sum) => sum / n);
    });
  },
};

export type ImportWorker = typeof worker;
expose(worker);
