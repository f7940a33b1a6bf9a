import * as z from "zod";
import { RESERVED_WORDS } from "./ids";

// Zod may not build code from strings: a page with a strict policy would not run it.
z.config({ jitless: true });

const WORD = /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/;

/** An id: lower-case words joined by hyphens, at most 40 characters, and no reserved word. */
export const Id = z
  .string()
  .max(40, "an id has at most 40 characters")
  .regex(WORD, "an id is lower-case words joined by hyphens, like left-eye")
  .refine((id) => !RESERVED_WORDS.has(id), "this word is reserved for phrases and cannot be an id");

export const TargetIdSchema = Id.brand<"TargetId">();
export const SensorIdSchema = Id.brand<"SensorId">();
export const RuleSetIdSchema = Id.brand<"RuleSetId">();
export const RuleIdSchema = Id.brand<"RuleId">();
export const LightIdSchema = Id.brand<"LightId">();
export const TapeIdSchema = Id.brand<"TapeId">();
export const ModeIdSchema = Id.brand<"ModeId">();
export const ResponseIdSchema = Id.brand<"ResponseId">();
export const CourseIdSchema = Id.brand<"CourseId">();

/** The id of something in a list that no phrase names: it need not be a word that phrases leave free. */
const ListId = z
  .string()
  .max(40, "an id has at most 40 characters")
  .regex(WORD, "an id is lower-case words joined by hyphens, like m1");
export const MarkIdSchema = ListId.brand<"MarkId">();
export const BoxIdSchema = ListId.brand<"BoxId">();
export const ClauseIdSchema = ListId.brand<"ClauseId">();
export const ReferenceIdSchema = ListId.brand<"ReferenceId">();
export const StepIdSchema = ListId.brand<"StepId">();
export const ThingIdSchema = ListId.brand<"ThingId">();
export const CheckIdSchema = ListId.brand<"CheckId">();

/** The schema of a thing in a list: an id before its own fields, and `more` behind them. @throws Error for a schema of something else */
export function listed<T, I extends z.ZodType>(
  schema: z.ZodType<T>,
  id: I,
  more: z.core.$ZodShape = {},
): z.ZodType<T & { id: z.infer<I> }> {
  if (schema instanceof z.ZodUnion)
    return z.union(schema.options.map((option) => listed(option as z.ZodType<T>, id, more))) as never;
  if (schema instanceof z.ZodObject)
    return z.strictObject({ id, ...schema.shape, ...more }).check(...((schema.def.checks ?? []) as never[])) as never;
  throw new Error("only things with fields can have an id");
}
