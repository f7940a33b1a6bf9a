import {
  type BoxId,
  type CheckId,
  type ClauseId,
  type ListKind,
  type MarkId,
  nextId,
  type ReferenceId,
  type StepId,
  type ThingId,
} from "../names";

type Fields = Record<string, unknown>;

/** Each list whose things have ids that no phrase names, by its key, and what its things are. */
const LISTS: ReadonlyMap<string, ListKind> = new Map([
  ["marks", "mark"],
  ["boxes", "box"],
  ["references", "reference"],
  ["steps", "step"],
  ["entering", "step"],
  ["patches", "patch"],
  ["lines", "line"],
  ["signs", "sign"],
  ["zones", "zone"],
  ["shade", "shade"],
  ["starts", "start"],
  ["cards", "card"],
  ["presses", "press"],
  ["plates", "plate"],
  ["checks", "check"],
]);

/** The kind of thing in a list; a condition has an `any`, too, but of conditions. */
const kindOf = (owner: object, key: string): ListKind | undefined =>
  key === "any" && "target" in owner && "on" in owner ? "clause" : LISTS.get(key);

const isThing = (value: unknown): value is Fields =>
  value !== null && typeof value === "object" && !Array.isArray(value) && !ArrayBuffer.isView(value);
const hasId = (thing: Fields): thing is { id: string } => typeof thing.id === "string";

function given(part: Fields): Fields {
  const entries = Object.entries(part).map(([key, inner]) => {
    if (isThing(inner)) return [key, given(inner)];
    // Columns of readings hold numbers.
    if (!Array.isArray(inner) || typeof inner[0] !== "object") return [key, inner];
    const kind = kindOf(part, key);
    const things: readonly unknown[] = kind === undefined ? inner : named(kind, inner);
    return [key, things.map((thing) => (isThing(thing) ? given(thing) : thing))];
  });
  return Object.fromEntries(entries);
}

function named(kind: ListKind, things: readonly unknown[]): readonly unknown[] {
  if (things.every((thing) => !isThing(thing) || "id" in thing)) return things;
  let next = Number(nextId(kind, things.filter(isThing).filter(hasId)).slice(kind.length + 1));
  return things.map((thing) => (isThing(thing) && !("id" in thing) ? { id: `${kind}-${next++}`, ...thing } : thing));
}

type ListId = MarkId | BoxId | ClauseId | ReferenceId | StepId | ThingId | CheckId;

/** A part of a project whose lists need not have ids. */
export type WithoutIds<T> = T extends string | number | boolean
  ? T
  : T extends { id: ListId }
    ? { id?: T["id"] } & { [K in keyof T as K extends "id" ? never : K]: WithoutIds<T[K]> }
    : T extends object
      ? { [K in keyof T]: WithoutIds<T[K]> }
      : T;

/** A part of a project with an id for whatever its lists hold without one, as files of before do. */
export const withIds = <T extends object>(part: WithoutIds<T>): T => given(part as Fields) as T;
