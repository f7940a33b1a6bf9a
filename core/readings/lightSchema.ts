import * as z from "zod";
import { LightIdSchema, Name } from "../names";

/** A named lighting condition: linear, 1 = the room's norm. */
export const Light = z.strictObject({
  id: LightIdSchema,
  name: Name,
  rgb: z.tuple([z.number().min(0).max(20), z.number().min(0).max(20), z.number().min(0).max(20)]),
  level: z.number().min(0).max(100),
});

export type Light = z.infer<typeof Light>;
