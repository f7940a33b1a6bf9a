import * as z from "zod";
import type { PhraseReader } from "./PhraseReader";

/** Units in which a time was written, where not in s, and a length, where not in cm: each is printed as it was meant. */
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

/** Tenths of a mm in each unit of length. */
const TENTHS = { cm: 100, mm: 10, m: 10_000 } as const;

/** A length in mm, to a tenth of one, and how it was written. */
export type Length = { mm: number; in?: "mm" | "m" };

/** Takes a length in cm, mm or m. */
export const takeLength = (reader: PhraseReader, what: string): Length =>
  lengthOf(reader, reader.takeAmount(what)) ?? reader.fail("cm, mm or m");

/** Gives the length that an amount is, where cm, mm or m stands behind it. */
export function lengthOf(reader: PhraseReader, amount: number): Length | undefined {
  const unit = (["cm", "mm", "m"] as const).find((own) => reader.skip(own));
  if (unit === undefined) return undefined;
  return { mm: Math.round(amount * TENTHS[unit]) / 10, ...(unit !== "cm" && { in: unit }) };
}

/** A fraction as the shortest percentage that reads back as exactly it. */
export function percent(fraction: number): string {
  for (let digits = 1; digits < 17; digits++) {
    const text = String(Number((fraction * 100).toPrecision(digits)));
    if (Number(text) / 100 === fraction) return text;
  }
  return String(fraction * 100);
}
