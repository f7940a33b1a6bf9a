/** One line of the report. */
export interface Row {
  what: string;
  measured: string;
  budget: string;
  /** Missing where there is no budget. */
  met?: boolean;
}

/** Rows as a Markdown table. */
export function table(rows: readonly Row[]): string {
  const line = ({ what, measured, budget, met }: Row) =>
    `| ${what} | ${measured} | ${budget} | ${met === undefined ? "" : met ? "yes" : "**no**"} |`;
  return ["| work | measured | budget | met |", "|---|---|---|---|", ...rows.map(line)].join("\n");
}

/** The value that the share `q` of sorted values lies below. */
export const quantile = (sorted: readonly number[], q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))];
