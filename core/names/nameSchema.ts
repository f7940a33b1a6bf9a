import * as z from "zod";
import { MOST_NAME } from "./ids";

/** Whatever ends a line, or is not to be seen at all: in written code it would end a comment or a text. */
const BREAKS = /[\p{Cc}\p{Cf}\u2028\u2029]/u;

/** A text as one line that can stand in a comment or a text of written code: what breaks a line becomes a space. */
export const oneLine = (text: string): string => text.replace(new RegExp(BREAKS, "gu"), " ");

/** The name of a thing, as people see it. */
export const Name = z
  .string()
  .trim()
  .min(1, "a name is needed")
  .max(MOST_NAME, `a name has at most ${MOST_NAME} characters`)
  .refine((name) => !BREAKS.test(name), "a name stands on one line, without control characters");
/** A paint, as screens write it. */
export const HexColour = z.string().regex(/^#[0-9a-f]{6}$/, "a colour is written #rrggbb in lower case");
