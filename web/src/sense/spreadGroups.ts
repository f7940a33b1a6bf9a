import type { LightId } from "@perceptum/core/names";
import type { Feature } from "@perceptum/core/readings";
import type { Target } from "@perceptum/core/rules";
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
  const all: Group[] = [];
  /** The group of each target and light, by its place from 1. */
  const places = new Map<string, number>();
  targets.forEach((target) => {
    for (const light of apart ? [...lights, undefined] : [undefined]) {
      const name = apart ? `${target.name}, ${light?.name ?? "light not noted"}` : target.name;
      const letter = light?.name.charAt(0).toLowerCase() ?? "–";
      const picked: Group["picked"] = [];
      all.push({
        target,
        light: light?.id,
        name,
        code: apart ? `${target.code} ${letter}` : target.code,
        picked,
        count: 0,
        spread: spreadsOf(picked),
      });
      places.set(`${target.id} ${light?.id ?? ""}`, all.length);
    }
  });
  // For each tape the group of each mark, counted from 1, by its place; 0 where nothing is marked.
  const ofMarks = tapes.map(({ head }) =>
    Uint16Array.from([0, ...head.marks.map((m) => places.get(`${m.target} ${apart ? (m.light ?? "") : ""}`) ?? 0)]),
  );
  tapes.forEach(({ mark }, k) => {
    const of = ofMarks[k];
    for (let i = 0; i < mark.length; i++) if (of[mark[i]] !== 0) all[of[mark[i]] - 1].count++;
  });
  const every = all.map((group) => Math.ceil(group.count / MOST_VALUES));
  const seen = all.map(() => 0);
  tapes.forEach((tape, k) => {
    const of = ofMarks[k];
    for (let index = 0; index < tape.mark.length; index++) {
      const place = of[tape.mark[index]] - 1;
      if (place >= 0 && seen[place]++ % every[place] === 0) all[place].picked.push({ tape, index });
    }
  });
  return all.filter((g) => g.count > 0 || !apart);
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
