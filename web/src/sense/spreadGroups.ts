import type { LightId, Target } from "@perceptum/core/project";
import type { Feature } from "@perceptum/core/readings";
import { type MarkedTape, type Spread, spreadOf } from "@perceptum/core/teaching";

/** Quantiles are taken from at most so many values of a row. */
const MOST_VALUES = 4000;

/** One row of the plots: a target in all lights or in one, with where its dots come from. */
export interface Group {
  target: Target;
  light: LightId | undefined;
  name: string;
  code: string;
  /** Evenly picked readings: tape and index. */
  picked: { tape: MarkedTape; index: number }[];
  count: number;
  /** How its picked readings spread; undefined where there are none, or the sensor does not report it. */
  spread(feature: Feature): Spread | undefined;
}

/** The rows: every target, in all lights or in each apart. */
export function groupsOf(
  tapes: readonly MarkedTape[],
  targets: readonly Target[],
  lights: readonly { id: LightId; name: string }[],
  apart: boolean,
): Group[] {
  const groups = new Map<string, Group>();
  targets.forEach((target) => {
    for (const light of apart ? [...lights, undefined] : [undefined]) {
      const name = apart ? `${target.name}, ${light?.name ?? "light not noted"}` : target.name;
      const letter = light?.name.charAt(0).toLowerCase() ?? "–";
      const picked: Group["picked"] = [];
      groups.set(`${target.id} ${light?.id ?? ""}`, {
        target,
        light: light?.id,
        name,
        code: apart ? `${target.code} ${letter}` : target.code,
        picked,
        count: 0,
        spread: spreadsOf(picked),
      });
    }
  });
  const keys = (tape: MarkedTape) => ["", ...tape.head.marks.map((m) => `${m.target} ${apart ? (m.light ?? "") : ""}`)];
  for (const tape of tapes) {
    const of = keys(tape);
    for (let i = 0; i < tape.mark.length; i++) {
      const group = tape.mark[i] === 0 ? undefined : groups.get(of[tape.mark[i]]);
      if (group) group.count++;
    }
  }
  const seen = new Map<Group, number>();
  for (const tape of tapes) {
    const of = keys(tape);
    for (let index = 0; index < tape.mark.length; index++) {
      const group = tape.mark[index] === 0 ? undefined : groups.get(of[tape.mark[index]]);
      if (group === undefined) continue;
      const n = seen.get(group) ?? 0;
      seen.set(group, n + 1);
      if (n % Math.ceil(group.count / MOST_VALUES) === 0) group.picked.push({ tape, index });
    }
  }
  return [...groups.values()].filter((g) => g.count > 0 || !apart);
}

/** The spread of picked readings in each feature, worked out when it is first asked for. */
function spreadsOf(picked: Group["picked"]): Group["spread"] {
  const known = new Map<Feature, Spread | undefined>();
  return (feature) => {
    if (known.has(feature)) return known.get(feature);
    const values = new Float64Array(picked.length);
    for (let k = 0; k < picked.length; k++) values[k] = picked[k].tape.block.column(feature)[picked[k].index];
    const spread = spreadOf(feature, values);
    known.set(feature, spread);
    return spread;
  };
}
