import * as z from "zod";
import { SensorIdSchema, TargetIdSchema, UNKNOWN } from "../names";
import { FeatureSchema } from "../readings";
import { BLOB_MEASURES, type Condition as Shape } from "./condition";

/** The schema of a condition. */
export const Condition: z.ZodType<Shape> = z.lazy(() =>
  z.union([
    z.strictObject({
      seen: z
        .array(z.union([z.literal(UNKNOWN), TargetIdSchema]))
        .min(1)
        .max(50),
      sensor: SensorIdSchema.optional(),
    }),
    z.strictObject({
      feature: FeatureSchema,
      from: z.number().optional(),
      to: z.number().optional(),
      open: z.boolean().optional(),
      sensor: SensorIdSchema.optional(),
    }),
    z.strictObject({ count: z.string(), from: z.number().int().optional(), to: z.number().int().optional() }),
    z.strictObject({ list: z.string(), holds: z.number().int().min(0).max(1000) }),
    z.strictObject({ button: z.string() }),
    z.strictObject({
      blob: TargetIdSchema,
      measure: z.enum(BLOB_MEASURES),
      from: z.number().optional(),
      to: z.number().optional(),
      open: z.boolean().optional(),
      sensor: SensorIdSchema.optional(),
    }),
    z.strictObject({
      blob: TargetIdSchema,
      side: z.enum(["left", "right"]),
      of: TargetIdSchema,
      sensor: SensorIdSchema.optional(),
    }),
    z.strictObject({ all: z.array(Condition).min(2).max(20) }),
    z.strictObject({ any: z.array(Condition).min(2).max(20) }),
    z.strictObject({ not: Condition }),
  ]),
);
