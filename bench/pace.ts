import type { ProjectDocument } from "@perceptum/core/project";
import { run } from "@perceptum/core/world";

/** Multiples of real time over several rounds of runs. */
export interface Pace {
  median: number;
  best: number;
}

/** Several rounds of runs, each with its own seeds. */
export function paceOf(
  project: ProjectDocument,
  course: string,
  limitMs = 60_000,
  rounds = 7,
  runs = 10,
  light = "noon-sun",
): Pace {
  const paces = Array.from({ length: rounds }, () => {
    let simulated = 0;
    const start = performance.now();
    for (let seed = 0; seed < runs; seed++) simulated += run(project, { course, light, seed, limitMs }).endMs;
    return simulated / (performance.now() - start);
  }).sort((a, b) => a - b);
  return { median: paces[rounds >> 1], best: paces[rounds - 1] };
}

const rounded = (x: number) => Math.round(x).toLocaleString("en");

export const paceWords = ({ median, best }: Pace): string =>
  `${rounded(best)} × real time (half of the rounds ${rounded(median)} ×)`;
