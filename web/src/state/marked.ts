import type { RuleSetId } from "@perceptum/core/project";
import { type MarkedTape, markedTapes } from "@perceptum/core/teaching";
import { useMemo } from "react";
import { readingStore, useReadingsVersion } from "./readings";
import { useAppSelector } from "./store";

let last: { of: readonly unknown[]; tapes: readonly MarkedTape[] } = { of: [], tapes: [] };

/** Every tape with its marks laid over its features; made again, once for all who ask, only when tapes, sensors or targets change. */
export function useMarkedTapes(): readonly MarkedTape[] {
  const version = useReadingsVersion();
  const tapes = useAppSelector((state) => state.document.present?.tapes);
  const sensors = useAppSelector((state) => state.document.present?.sensors);
  const targets = useAppSelector((state) => state.document.present?.targets);
  const of = [tapes, sensors, targets, version];
  if (of.some((part, i) => part !== last.of[i]))
    last = {
      of,
      tapes: tapes && sensors && targets ? markedTapes({ tapes, sensors, targets }, readingStore.all) : [],
    };
  return last.tapes;
}

/** The marked tapes that one rule set judges. */
export function useTapesOf(ruleSet: RuleSetId | undefined): readonly MarkedTape[] {
  const all = useMarkedTapes();
  return useMemo(() => all.filter((tape) => tape.sensor.ruleSet === ruleSet), [all, ruleSet]);
}
