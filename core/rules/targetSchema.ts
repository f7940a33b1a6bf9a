import * as z from "zod";
import { HexColour, Name, TargetIdSchema } from "../names";

export const TARGET_KINDS = ["tag", "piece", "card", "background"] as const;
/** A target’s code: two letters, or a letter and a digit. */
export const TARGET_CODE = /^[A-Za-z][A-Za-z0-9]$/;

/** Backgrounds have small letters, all else has capitals. */
const inCase = (code: string, kind: string) => (kind === "background" ? code.toLowerCase() : code.toUpperCase());

/**
 * A code that no other target has, from the letters and digits of a name: the first with one of the others, else with a
 * digit or any letter. The first of a name without any is X.
 */
export function freeTargetCode(name: string, kind: (typeof TARGET_KINDS)[number], taken: readonly string[]): string {
  const signs = name.normalize("NFKD").replace(/[^A-Za-z0-9]/g, "");
  const [first = "X"] = signs.replace(/^[0-9]+/, "");
  const used = new Set(taken.map((code) => code.toLowerCase()));
  const seconds = `${signs.slice(signs.indexOf(first) + 1)}x234567891abcdefghijklmnopqrstuvwyz`;
  const code = [...seconds].map((second) => inCase(first + second, kind)).find((c) => !used.has(c.toLowerCase()));
  return code ?? inCase(`${first}x`, kind);
}

/** Something to recognise, or a background that must not be mistaken for one. */
export const Target = z.strictObject({
  id: TargetIdSchema,
  code: z.string().regex(TARGET_CODE, "a code is two letters, or a letter and a digit"),
  name: Name,
  kind: z.enum(TARGET_KINDS),
  paint: HexColour,
});

export type Target = z.infer<typeof Target>;
