import { ARGS, END } from "./engine/rows";
import type { Response } from "./schema";
import type { Step } from "./steps";

/** A row of which it is still known what it is: its kind, its arguments, and what stands behind them. */
export interface RowItem {
  of: "step" | "trigger" | "condition";
  act: string;
  number: number;
  takes: readonly string[];
  args: readonly number[];
  numbers: readonly number[];
  /** Of a condition: the number of those before it that it is made of. */
  parts: number;
  conditions?: readonly RowItem[];
  step?: RowItem;
}

/** A step with its row. */
export interface StepItem {
  step: Step;
  row: RowItem;
}

/** A mode, a response or a routine with the rows of its steps. */
export type PartItem = { steps: readonly StepItem[] } & (
  | { part: "mode" | "routine"; name: string }
  | {
      part: "when";
      response: Response;
      trigger: RowItem;
      guard?: readonly RowItem[];
      /** `once` is 1 where it answers once a visit, `patient` where it lets others finish; `leads` is the way on. */
      args: { once: number; patient: number; restMs: number; leads: number };
    }
);

/** The cells of a row. */
export const cellsOf = ({ number, args, numbers, conditions, step }: RowItem): number[] => {
  const behind = [
    ...numbers,
    ...(conditions === undefined ? [] : conditionCells(conditions)),
    ...(step === undefined ? [] : cellsOf(step)),
  ];
  return [number, ARGS + args.length + behind.length, ...args, ...behind];
};

/** The cells of the rows of a condition. */
export const conditionCells = (rows: readonly RowItem[]): number[] => [...rows.flatMap(cellsOf), END, ARGS];
