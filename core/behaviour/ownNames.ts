import type { NameKind } from "./Visitor";

/** The lists of a behaviour that hold words of its own, each with the word for one of them. */
export const OWN_NAMES = { counters: "counter", lists: "list", routines: "routine" } as const satisfies Record<
  string,
  NameKind
>;
export type OwnNames = keyof typeof OWN_NAMES;
