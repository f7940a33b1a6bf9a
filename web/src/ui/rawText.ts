/** A raw value as it is shown: whole as it came, else to four digits that count. */
export const rawText = (value: number): string =>
  Number.isInteger(value) ? String(value) : String(Number(value.toPrecision(4)));
