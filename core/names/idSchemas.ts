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
