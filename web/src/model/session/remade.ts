import { applyEdit } from "@perceptum/core/edits";
import { type ProjectDocument, renew } from "@perceptum/core/project";
import { dequal } from "dequal/lite";
import type { KeptChange, Unsent } from "./kept";

/** Makes a change that was kept once more; fetched only where there is some. A page of an earlier version may have kept it. */
export function remade(change: KeptChange): Unsent {
  renew(change.base);
  let document = change.base;
  let lost = 0;
  for (const edit of change.edits) {
    const made = applyEdit(document, edit, true);
    if ("problem" in made) lost++;
    else document = made.project;
  }
  return { ...change, document, lost };
}

/** Tells whether two documents say the same: the server puts their fields into an order of its own. */
export const saysTheSame = (a: ProjectDocument, b: ProjectDocument): boolean => dequal(a, b);
