import { wrapHue } from "../colour";
import type { LightId, RuleSetId } from "../names";
import { FEATURES, type Feature, type Light } from "../readings";
import type { Target } from "../rules";
import type { MarkedTape } from "./marked";

/** The marked readings that one rule set judges, gathered from all tapes of its sensors. */
export interface Sample {
  targets: readonly Target[];
  lights: readonly { id: LightId; name: string }[];
  /** What all the sensors report. */
  features: readonly Feature[];
  count: number;
  /** The true target of each reading, from 1. */
  truth: Uint8Array;
  /** The light that is noted for each, from 1; 0 where none is. */
  light: Uint8Array;
  /** Which visit each reading belongs to: one for each mark. */
  visit: Uint32Array;
  /** 1 for what the program's own optics gave, on the bench or in a run; missing where nothing is known of it. */
  simulated?: Uint8Array;
  column(feature: Feature): Float64Array;
}

/** Gathers the marked readings of a rule set's tapes; of no tape, an empty sample. */
export function sampleOf(
  project: { targets: readonly Target[]; lights: readonly Light[] },
  tapes: readonly MarkedTape[],
  ruleSet: RuleSetId,
): Sample {
  const own = tapes.filter((tape) => tape.sensor.ruleSet === ruleSet);
  const features = FEATURES.filter((f) => f !== "code" && own.every(({ block }) => block.features.includes(f)));
  let count = 0;
  for (const tape of own) for (let i = 0; i < tape.truth.length; i++) if (tape.truth[i] !== 0) count++;
  const [truth, light] = [new Uint8Array(count), new Uint8Array(count)];
  const visit = new Uint32Array(count);
  const simulated = new Uint8Array(count);
  let n = 0;
  let visits = 0;
  const kept = own.map((tape) => {
    const indices = new Uint32Array(tape.truth.length);
    let kept = 0;
    const lightOf = [0, ...tape.head.marks.map((m) => project.lights.findIndex((l) => l.id === m.light) + 1)];
    for (let i = 0; i < tape.truth.length; i++) {
      if (tape.truth[i] === 0) continue;
      indices[kept++] = i;
      truth[n] = tape.truth[i];
      light[n] = lightOf[tape.mark[i]];
      simulated[n] = tape.head.origin === "run" || tape.head.origin === "bench" ? 1 : 0;
      visit[n++] = visits + tape.mark[i];
    }
    visits += tape.head.marks.length;
    return { block: tape.block, indices: indices.subarray(0, kept) };
  });
  const columns = new Map<Feature, Float64Array>();
  return {
    targets: project.targets,
    lights: project.lights,
    features: own.length === 0 ? [] : features,
    count,
    truth,
    light,
    visit,
    simulated,
    column(feature) {
      const known = columns.get(feature);
      if (known) return known;
      const column = new Float64Array(count);
      let k = 0;
      for (const { block, indices } of kept) {
        const source = block.column(feature);
        for (let j = 0; j < indices.length; j++) column[k++] = source[indices[j]];
      }
      columns.set(feature, column);
      return column;
    },
  };
}

/** The part of a sample for which `keep` holds. */
export function partOf(sample: Sample, keep: (index: number) => boolean): Sample {
  const kept = new Uint32Array(sample.count);
  let count = 0;
  for (let i = 0; i < sample.count; i++) if (keep(i)) kept[count++] = i;
  const picked = <A extends Uint8Array | Uint32Array | Float64Array>(source: A, into: A): A => {
    for (let k = 0; k < count; k++) into[k] = source[kept[k]];
    return into;
  };
  const columns = new Map<Feature, Float64Array>();
  return {
    ...sample,
    count,
    truth: picked(sample.truth, new Uint8Array(count)),
    light: picked(sample.light, new Uint8Array(count)),
    visit: picked(sample.visit, new Uint32Array(count)),
    ...(sample.simulated && { simulated: picked(sample.simulated, new Uint8Array(count)) }),
    column(feature) {
      const known = columns.get(feature);
      if (known) return known;
      const column = picked(sample.column(feature), new Float64Array(count));
      columns.set(feature, column);
      return column;
    },
  };
}

/** The lights, counted from 1, in which something is marked; 0 stands for readings without a light. */
export function lightsIn(sample: Sample): number[] {
  const found = new Set<number>();
  for (let i = 0; i < sample.count; i++) found.add(sample.light[i]);
  return [...found].sort((a, b) => a - b);
}

/** How far a hue lies from `middle`, −180..180, so that what lies around `middle` lies on a line. */
export function unrolled(hue: number, middle: number): number {
  const off = hue - middle;
  return off >= 180 ? off - 360 : off < -180 ? off + 360 : off;
}

/** The inverse of `unrolled`. */
export const rolled = (off: number, middle: number) => wrapHue(off + middle);
