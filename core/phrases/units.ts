import * as z from "zod";

/** How a time was written, where that is not in s, and a length, where that is not in cm: it is printed as it was meant. */
export const timeIn = z.literal("ms").optional();
export const lengthIn = z.enum(["mm", "m"]).optional();

type TimeIn = z.infer<typeof timeIn>;
type LengthIn = z.infer<typeof lengthIn>;

/** A time or a length with how it is written; nothing where it is in the usual unit. */
export const inUnit = <U extends string>(unit: U | undefined): { in?: U } => (unit === undefined ? {} : { in: unit });

/** `1.5 s` or `1500 ms`. */
export const printTime = (ms: number, unit?: TimeIn): string => (unit === "ms" ? `${ms} ms` : `${ms / 1000} s`);

/** `25 cm`, `250 mm` or `0.25 m`. */
export const printLength = (mm: number, unit?: LengthIn): string =>
  unit === "mm" ? `${mm} mm` : unit === "m" ? `${mm / 1000} m` : `${mm / 10} cm`;

/** A length that was written in a unit, in mm, to a tenth of one. */
export const inMm = (amount: number, unit: "mm" | "cm" | "m"): number =>
  Math.round(amount * { mm: 10, cm: 100, m: 10_000 }[unit]) / 10;
