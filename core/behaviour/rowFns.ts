import type { Engine, StepActs } from "./engine/Engine";
import { ARGS } from "./engine/rows";
import type { Acts } from "./rowKinds";

/** The row at which steps end does nothing. */
export const ENDED: StepActs = { begin: null, during: null, ended: null, end: null, isEndless: false };

/** The functions of a step's rows as those of one row. */
export const actsOf = ({ takes, begin, during, ended, end, isEndless }: Acts): StepActs => ({
  begin: begin ? called(begin, takes.length) : null,
  during: during ? called(during, takes.length) : null,
  ended: ended ? called(ended, takes.length) : null,
  end: end ? called(end, takes.length) : null,
  isEndless: isEndless === true,
});

const cell = (e: Engine, at: number, k: number): number => e.p.rows[at + ARGS + k];
const place = (_: Engine, at: number, k: number): number => at + ARGS + k;

/** A function of its own arguments as one of a row: it is given the cells, and behind them the place of what follows. */
export function called<R>(fn: (e: Engine, ...args: number[]) => R, takes: number): (e: Engine, at: number) => R {
  const wants = fn.length - 1;
  const last = wants > takes ? place : cell;
  switch (wants) {
    case -1:
    case 0:
      return (e) => fn(e);
    case 1:
      return (e, at) => fn(e, last(e, at, 0));
    case 2:
      return (e, at) => fn(e, cell(e, at, 0), last(e, at, 1));
    case 3:
      return (e, at) => fn(e, cell(e, at, 0), cell(e, at, 1), last(e, at, 2));
    case 4:
      return (e, at) => fn(e, cell(e, at, 0), cell(e, at, 1), cell(e, at, 2), last(e, at, 3));
    case 5:
      return (e, at) => fn(e, cell(e, at, 0), cell(e, at, 1), cell(e, at, 2), cell(e, at, 3), last(e, at, 4));
    default:
      return (e, at) => {
        const args = Array.from({ length: wants - 1 }, (_, k) => cell(e, at, k));
        return fn(e, ...args, last(e, at, wants - 1));
      };
  }
}
