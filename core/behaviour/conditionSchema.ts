import * as z from "zod";
import { SensorId, TargetId } from "../project/idSchemas";
import { UNKNOWN } from "../project/ids";
import { Feature } from "../readings/featureSchema";
import { BLOB_MEASURES, type Condition as Shape } from "./condition";

/** The schema of a condition. */
export const Condition: z.ZodType<Shape> = z.lazy(() =>
  z.union([
    z.strictObject({
      seen: z
        .array(z.union([z.literal(UNKNOWN), TargetId]))
        .min(1)
        .max(50),
      sensor: SensorId.optional(),
    }),
    z.strictObject({
      feature: Feature,
      from: z.number().optional(),
      to: z.number().optional(),
      open: z.boolean().optional(),
      sensor: SensorId.optional(),
    }),
    z.strictObject({ count: z.string(), from: z.number().int().optional(), to: z.number().int().optional() }),
    z.strictObject({ list: z.string(), holds: z.number().int().min(0).max(1000) }),
    z.strictObject({ button: z.string() }),
    z.strictObject({
      blob: TargetId,
      measure: z.enum(BLOB_MEASURES),
      from: z.number().optional(),
      to: z.number().optional(),
      open: z.boolean().optional(),
      sensor: SensorId.optional(),
    }),
    z.strictObject({
      blob: TargetId,
      side: z.enum(["left", "right"]),
      of: TargetId,
      sensor: SensorId.optional(),
    }),
    z.strictObject({ all: z.array(Condition).min(2).max(20) }),
    z.strictObject({ any: z.array(Condition).min(2).max(20) }),
    z.strictObject({ not: Condition }),
  ]),
);
