import * as z from "zod";
import {
  ClauseIdSchema,
  LightIdSchema,
  Name,
  ReferenceIdSchema,
  RuleIdSchema,
  RuleSetIdSchema,
  TargetIdSchema,
} from "../names";
import { FeatureSchema } from "../readings";

/** A band: inclusive, a missing end is open; from > to only for hue, which then wraps through 0. */
export const Test = z
  .strictObject({
    feature: FeatureSchema,
    from: z.number().optional(),
    to: z.number().optional(),
    not: z.boolean().optional(),
  })
  .refine(
    (t) => t.feature === "hue" || t.from === undefined || t.to === undefined || t.from <= t.to,
    "only a hue band may start above its end",
  );

/** Tests that must all hold. */
export const Clause = z.strictObject({ id: ClauseIdSchema, all: z.array(Test).max(12) });

export const Rule = z.strictObject({
  id: RuleIdSchema,
  target: TargetIdSchema,
  on: z.boolean(),
  any: z.array(Clause).max(12),
});

/** k of n: when a label becomes what is seen, and when it is given up. */
export const Steady = z
  .strictObject({
    hits: z.number().int().min(1).max(50),
    of: z.number().int().min(1).max(50),
    release: z.number().int().min(1).max(50),
    rejoinMs: z.number().min(0).max(60_000),
  })
  .refine((s) => s.hits <= s.of, "hits cannot exceed the readings they are counted among");

const Share = z.number().min(0).max(1);

/** A stored colour that the nearest method compares with; for a hue-only or a reflected-light sensor one number. */
export const Reference = z.strictObject({
  id: ReferenceIdSchema,
  target: TargetIdSchema,
  hue: z.number().min(0).lt(360).optional(),
  sat: Share.optional(),
  val: Share.optional(),
  reflected: Share.optional(),
  light: LightIdSchema.optional(),
});

export const RuleSet = z.strictObject({
  id: RuleSetIdSchema,
  name: Name,
  method: z.enum(["bands", "nearest"]),
  rules: z.array(Rule).max(100),
  nearest: z
    .strictObject({ references: z.array(Reference).max(500), reject: z.number().positive().max(2) })
    .default({ references: [], reject: 0.25 }),
  steady: Steady,
});

export type Test = z.infer<typeof Test>;
export type Clause = z.infer<typeof Clause>;
export type Rule = z.infer<typeof Rule>;
export type Steady = z.infer<typeof Steady>;
export type Reference = z.infer<typeof Reference>;
export type RuleSet = z.infer<typeof RuleSet>;
