import { z } from "zod";

/** Words of the phrases that cannot name a thing, or the phrase would have two readings. */
export const RESERVED_WORDS: ReadonlySet<string> = new Set(
  (
    "and or not unknown seen until for at most by to of off reset blink coast left right between holds button " +
    "r g b clear hue sat val light chroma reflected code width height area x y error finish in times"
  ).split(" "),
);

const WORD = /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/;

/** An id: lower-case words joined by hyphens, at most 40 characters, and no reserved word. */
export const Id = z
  .string()
  .max(40, "an id has at most 40 characters")
  .regex(WORD, "an id is lower-case words joined by hyphens, like left-eye")
  .refine((id) => !RESERVED_WORDS.has(id), "this word is reserved for phrases and cannot be an id");

export const TargetId = Id.brand<"TargetId">();
export const SensorId = Id.brand<"SensorId">();
export const RuleSetId = Id.brand<"RuleSetId">();
export const RuleId = Id.brand<"RuleId">();
export const LightId = Id.brand<"LightId">();
export const TapeId = Id.brand<"TapeId">();
export const ModeId = Id.brand<"ModeId">();
export const ResponseId = Id.brand<"ResponseId">();
export const CourseId = Id.brand<"CourseId">();
export type TargetId = z.infer<typeof TargetId>;
export type SensorId = z.infer<typeof SensorId>;
export type RuleSetId = z.infer<typeof RuleSetId>;
export type RuleId = z.infer<typeof RuleId>;
export type LightId = z.infer<typeof LightId>;
export type TapeId = z.infer<typeof TapeId>;
export type ModeId = z.infer<typeof ModeId>;
export type ResponseId = z.infer<typeof ResponseId>;
export type CourseId = z.infer<typeof CourseId>;

/** The word for "nothing known", where a target's id could stand. */
export const UNKNOWN = "unknown";
export type Unknown = typeof UNKNOWN;

/**
 * A free id made from a name: `In the bay` gives `in-the-bay`, or `in-the-bay-2` where that is taken.
 */
export function freeId<T extends string>(name: string, taken: Iterable<string>): T {
  const used = new Set(taken);
  const words = name
    .toLowerCase()
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^[-0-9]+|-+$/g, "")
    .slice(0, 32)
    .replace(/-+$/, "");
  const base = words === "" || RESERVED_WORDS.has(words) ? `${words || "new"}-1`.replace(/^-/, "") : words;
  if (!used.has(base)) return base as T;
  for (let n = 2; ; n++) {
    const id = `${base}-${n}`;
    if (!used.has(id)) return id as T;
  }
}
