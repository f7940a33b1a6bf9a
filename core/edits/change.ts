import * as z from "zod";

/** New values for some fields of a thing; null takes away one that need not be there. Its id stays. */
export type ChangeOf<T> = {
  [K in keyof T as K extends "id" ? never : K]?: undefined extends T[K] ? Exclude<T[K], undefined> | null : T[K];
};

/** The schema of changes of a thing, from the thing's own; of some of its fields where these are named. */
export function changeOf<S extends z.ZodRawShape, K extends keyof z.infer<z.ZodObject<S>> & string>(
  thing: z.ZodObject<S>,
  ...fields: readonly K[]
): z.ZodType<ChangeOf<Pick<z.infer<z.ZodObject<S>>, K>>> {
  const own = Object.entries(thing.shape as unknown as Record<string, z.ZodType>).filter(
    ([key]) => key !== "id" && (fields.length === 0 || (fields as readonly string[]).includes(key)),
  );
  const shape = own.map(([key, schema]) => [
    key,
    schema instanceof z.ZodOptional ? (schema.unwrap() as z.ZodType).nullable().optional() : schema.optional(),
  ]);
  return z.strictObject(Object.fromEntries(shape)) as never;
}

/** A thing with a change made. */
export function changed<T extends object>(
  thing: T,
  change: { readonly [K in keyof NoInfer<T>]?: T[K] | null | undefined },
): T {
  const made = { ...thing } as Record<string, unknown>;
  for (const [key, value] of Object.entries(change)) {
    if (value === undefined) continue;
    if (value === null) delete made[key];
    else made[key] = value;
  }
  return made as T;
}

type Listed = { id: string };

/** A list with the thing of an id changed; the same list where nothing is. */
export function withThing<T extends Listed>(things: readonly T[], id: string, change: (thing: T) => T): T[] {
  const at = things.findIndex((thing) => thing.id === id);
  if (at < 0) return things as T[];
  const made = change(things[at]);
  return made === things[at] ? (things as T[]) : things.with(at, made);
}

/** A list without the thing of an id. */
export const without = <T extends Listed>(things: readonly T[], id: string): T[] =>
  things.filter((thing) => thing.id !== id);

/** A list with something more, before the thing of an id, or at its end. */
export function placed<T extends Listed>(things: readonly T[], thing: T, before: string | null): T[] {
  const at = before === null ? -1 : things.findIndex(({ id }) => id === before);
  return things.toSpliced(at < 0 ? things.length : at, 0, thing);
}

/** A list with the thing of an id before another one, or at its end; the same list where it stands there. */
export function moved<T extends Listed>(things: readonly T[], id: string, before: string | null): T[] {
  const thing = things.find((one) => one.id === id);
  if (thing === undefined || id === before) return things as T[];
  const made = placed(without(things, id), thing, before);
  return made.every((one, i) => one === things[i]) ? (things as T[]) : made;
}
