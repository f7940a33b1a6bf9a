import * as z from "zod";

/** Kinds of values that a routine may take, in people's words. */
export const INPUT_KINDS = {
  time: "a time",
  length: "a length",
  speed: "a speed",
  number: "a whole number",
  target: "a target",
  text: "a text",
} as const;
export type InputKind = keyof typeof INPUT_KINDS;
export const InputKind = z.enum(Object.keys(INPUT_KINDS) as [InputKind, ...InputKind[]]);

/** The kinds of value that begin with a number. */
export const NUMERIC: readonly InputKind[] = ["time", "length", "speed", "number"];

/** A value as a phrase has it: `2 s`, `20 cm`, `30 %`, `3`, a target's id, a text in quotes. */
export interface InputValue {
  kind: InputKind;
  value: string;
}
/** A value with the name by which a routine's steps take it. */
export interface Input extends InputValue {
  name: string;
}

/** A value that a phrase has, a number with its unit, a target or a text: its place, and the input that stands for it. */
export interface PhraseValue {
  from: number;
  to: number;
  input?: string;
}

/** The units that belong to the number before them. */
export const UNITS = new Set(["%", "s", "ms", "cm", "mm", "m"]);
