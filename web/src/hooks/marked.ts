import type { RuleSetId } from "@perceptum/core/names";
import type { MarkedTape } from "@perceptum/core/teaching";
import { useMemo, useSyncExternalStore } from "react";
import { useSession } from "./context";

/** Every tape of the open project with its marks laid over its features. */
export function useMarkedTapes(): readonly MarkedTape[] {
  const { marked } = useSession();
  return useSyncExternalStore(marked.subscribe, marked.get);
}

/** The marked tapes that one rule set judges. */
export function useTapesOf(ruleSet: RuleSetId | undefined): readonly MarkedTape[] {
  const all = useMarkedTapes();
  return useMemo(() => all.filter((tape) => tape.sensor.ruleSet === ruleSet), [all, ruleSet]);
}
