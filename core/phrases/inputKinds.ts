import * as z from "zod";

/** What a routine may take: a value of one of these kinds, in people's words. */
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
