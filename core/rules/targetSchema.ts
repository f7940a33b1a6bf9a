import * as z from "zod";
import { HexColour, Name, TargetIdSchema } from "../names";

export const TARGET_KINDS = ["tag", "piece", "card", "background"] as const;
/** Something to recognise, or a background that must not be mistaken for one. */
export const Target = z.strictObject({
  id: TargetIdSchema,
  code: z.string().regex(/^[A-Za-z]{2}$/, "a code is two letters"),
  name: Name,
  kind: z.enum(TARGET_KINDS),
  paint: HexColour,
});

export type Target = z.infer<typeof Target>;
