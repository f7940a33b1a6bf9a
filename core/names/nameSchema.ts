import * as z from "zod";

/** The name of a thing, as people see it. */
export const Name = z.string().trim().min(1, "a name is needed").max(80, "a name has at most 80 characters");
/** A paint, as screens write it. */
export const HexColour = z.string().regex(/^#[0-9a-f]{6}$/, "a colour is written #rrggbb in lower case");
