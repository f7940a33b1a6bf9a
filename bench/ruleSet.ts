import type { RuleId, RuleSetId, TargetId } from "@perceptum/core/names";
import type { RuleSet } from "@perceptum/core/rules";

/** So many rules of three bands around as many hues, each for a target of its own. */
export function banded(rules: number): RuleSet {
  const apart = 360 / rules;
  return {
    id: "bench" as RuleSetId,
    name: "Bench",
    method: "bands",
    nearest: { references: [], reject: 0.25 },
    rules: Array.from({ length: rules }, (_, k) => ({
      id: `r-${k}` as RuleId,
      target: `t-${k}` as TargetId,
      on: true,
      any: [
        {
          id: "clause-1" as never,
          all: [
            { feature: "hue" as const, from: (k * apart + 350) % 360, to: (k * apart + 15) % 360 },
            { feature: "sat" as const, from: 0.3, to: 0.95 },
            { feature: "val" as const, from: 0.25, to: 0.9 },
          ],
        },
      ],
    })),
    steady: { hits: 3, of: 4, release: 3, rejoinMs: 200 },
  };
}
