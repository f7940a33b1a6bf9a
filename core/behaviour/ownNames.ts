import type { NameKind } from "./Visitor";

/** What a behaviour names by words of its own, and what one of each is called. */
export const OWN_NAMES = { counters: "counter", lists: "list", routines: "routine" } as const satisfies Record<
  string,
  NameKind
>;
export type OwnNames = keyof typeof OWN_NAMES;
