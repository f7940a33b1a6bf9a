import type { BoxId, CheckId, ClauseId, MarkId, ReferenceId, StepId, ThingId } from "./ids";

/** The kinds of things in lists that no phrase names, and their ids. */
interface ListIds {
  mark: MarkId;
  box: BoxId;
  clause: ClauseId;
  reference: ReferenceId;
  step: StepId;
  check: CheckId;
  patch: ThingId;
  line: ThingId;
  sign: ThingId;
  zone: ThingId;
  shade: ThingId;
  start: ThingId;
  card: ThingId;
  press: ThingId;
  plate: ThingId;
}
export type ListKind = keyof ListIds;

/** A thing without its id: what is made before it comes into a list. */
export type Unlisted<T> = T extends unknown ? Omit<T, "id"> : never;

/** Gives things of one kind ids by their places: `mark-1`, `mark-2`. They are unique within their list. */
export const numbered = <K extends ListKind, T extends object>(
  kind: K,
  things: readonly T[],
): ({ id: ListIds[K] } & T)[] =>
  things.map((thing, i) => {
    const id = `${kind}-${i + 1}` as ListIds[K];
    return Object.assign({ id }, thing, { id });
  });

/** An id that nothing in a list has: one more than the greatest number there. */
export function nextId<K extends ListKind>(kind: K, things: readonly { id: string }[]): ListIds[K] {
  const ends = things.map(({ id }) => (id.startsWith(`${kind}-`) ? Number(id.slice(kind.length + 1)) : 0));
  return `${kind}-${1 + Math.max(0, ...ends.filter(Number.isInteger))}` as ListIds[K];
}
