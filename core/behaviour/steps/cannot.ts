import { TROUBLE_CANNOT } from "../engine/Engine";
import { trouble } from "../engine/saying";
import type { Acts } from "../rowKinds";

/** Stands in the place of a step that the machine cannot carry out: says so, and is passed over. */
export const cannot: { key: string; acts: { cannot: Acts } } = {
  key: "cannot",
  acts: { cannot: { takes: [], begin: (e) => trouble(e, TROUBLE_CANNOT, 0, 0, 0) } },
};
