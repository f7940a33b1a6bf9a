import type { $brand } from "zod";

/** Words of the phrases that cannot name a thing, or the phrase would have two readings. */
export const RESERVED_WORDS: ReadonlySet<string> = new Set(
  (
    "and or not unknown seen until for at most by to of off reset blink coast left right between holds button " +
    "r g b clear hue sat val light chroma reflected code width height area x y error finish in times " +
    "edge by camera icon after nothing becomes still"
  ).split(" "),
);

/** Ids are strings that cannot stand for one another. Their schemas are in `idSchemas.ts`. */
type Brand<Name extends string> = string & $brand<Name>;
export type TargetId = Brand<"TargetId">;
export type SensorId = Brand<"SensorId">;
export type RuleSetId = Brand<"RuleSetId">;
export type RuleId = Brand<"RuleId">;
export type LightId = Brand<"LightId">;
export type TapeId = Brand<"TapeId">;
export type ModeId = Brand<"ModeId">;
export type ResponseId = Brand<"ResponseId">;
export type CourseId = Brand<"CourseId">;
export type MarkId = Brand<"MarkId">;
export type BoxId = Brand<"BoxId">;
export type ClauseId = Brand<"ClauseId">;
export type ReferenceId = Brand<"ReferenceId">;
export type StepId = Brand<"StepId">;
export type ThingId = Brand<"ThingId">;
export type CheckId = Brand<"CheckId">;

/** The word for "nothing known", where a target's id could stand. */
export const UNKNOWN = "unknown";
export type Unknown = typeof UNKNOWN;

/** The longest name of a thing, in characters. */
export const MOST_NAME = 80;

/** A name cut to the longest that there may be, with an ending that stays whole. */
export const cutName = (name: string, ending = ""): string => name.slice(0, MOST_NAME - ending.length) + ending;

/** A name that none of some things has: this one, or with a number behind it from 2 on. */
export function unusedName(name: string, things: readonly { name?: string | undefined }[]): string {
  const taken = new Set(things.map((thing) => thing.name));
  if (!taken.has(name)) return name;
  const base = name.replace(/ \d+$/, "");
  for (let n = 2; ; n++) {
    const next = cutName(base, ` ${n}`);
    if (!taken.has(next)) return next;
  }
}

/** A name as phrases compare it: in small letters, with single spaces. */
export const plainName = (name: string): string => name.trim().toLowerCase().replace(/\s+/g, " ");

/**
 * A free id made from a name: `In the bay` gives `in-the-bay`, or `in-the-bay-2` where that is taken.
 */
export function freeId<T extends string>(name: string, taken: Iterable<string>): T {
  const used = new Set(taken);
  const words = name
    .toLowerCase()
    .normalize("NFKD")
    .replace(/\p{Mark}/gu, "")
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

/** A place in what is kept: keys and places in lists, from the outside in. */
export type Path = readonly (string | number)[];
