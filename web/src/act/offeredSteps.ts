import { type Ability, STEPS } from "@perceptum/core/behaviour";
import type { Completion } from "@perceptum/core/phrases";

/** The phrases of the menu of steps, without those that the robot cannot carry out. */
export const offeredTemplates = (can: readonly Ability[], hasCamera: boolean): string[] =>
  STEPS.entries.flatMap(({ needs, templates, cameraTemplates = [] }) =>
    needs === undefined || can.includes(needs) ? [...templates, ...(hasCamera ? cameraTemplates : [])] : [],
  );

/** The words that a step may begin with which the robot cannot carry out. */
const unfitOpenings = (can: readonly Ability[]): ReadonlySet<string> =>
  new Set(
    STEPS.entries.flatMap(({ needs, opening }) => (needs !== undefined && !can.includes(needs) ? [opening] : [])),
  );

/** What may come next in a step, without beginnings that the robot cannot carry out. */
export function offeredWords(words: readonly Completion[], can: readonly Ability[]): Completion[] {
  const unfit = unfitOpenings(can);
  return words.filter(({ from, word }) => from > 0 || !unfit.has(word));
}
