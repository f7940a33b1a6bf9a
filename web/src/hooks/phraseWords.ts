import { type PhraseWords, phraseWords } from "@perceptum/core/behaviour";
import { useMemo } from "react";
import { useProject } from "./project";

/**
 * The words of phrases as people see them. A file of its own: it brings every kind of step with its schema, which the
 * first screen does without.
 */
export function usePhraseWords(): PhraseWords {
  const { targets, sensors, behaviour, robot } = useProject();
  return useMemo(() => phraseWords({ targets, sensors, behaviour, robot }), [targets, sensors, behaviour, robot]);
}
