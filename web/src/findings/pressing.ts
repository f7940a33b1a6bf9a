import type { Finding } from "@perceptum/core/findings";

/** The findings of a stage that press, hints and what was put aside left out, the most serious one first. */
export function pressing(all: readonly Finding[], stage: Finding["place"]["stage"]): Finding[] {
  const here = all.filter((f) => f.place.stage === stage && !f.aside && f.level !== "hint");
  const first = here.find((f) => f.level === "error") ?? here.at(0);
  return first === undefined ? [] : [first, ...here.filter((f) => f !== first)];
}
