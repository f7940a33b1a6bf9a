import type { RuleSetId, TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { Sensor } from "@perceptum/core/readings";
import type { Rule, RuleSet, Target } from "@perceptum/core/rules";
import { useCallback, useMemo } from "react";
import { shallowEqual, useStore } from "react-redux";
import type { ProjectSession } from "../model/session/ProjectSession";
import type { AppState } from "../model/store/store";
import { useSession } from "./context";
import { useAppSelector } from "./store";

/** The open project. Only below the project page, where there is one. */
export function useProject(): ProjectDocument {
  return useAppSelector((state) => state.document.present) as ProjectDocument;
}

/** The open project as it was before a drag that is still going on: for what need not follow every move. */
export function useSettledProject(): ProjectDocument {
  return useAppSelector((state) => state.document.settled) as ProjectDocument;
}

/** The function that makes an edit of the open project. */
export type MakeEdit = ProjectSession["do"];

/** Makes edits of the open project; the same function for as long as it is open. A sentence where one is not made. */
export const useEdit = (): MakeEdit => useSession().do;

const NO_TARGETS: readonly Target[] = [];

/** Targets by id. */
export function useTargets(): ReadonlyMap<TargetId, Target> {
  const targets = useAppSelector((state) => state.document.present?.targets) ?? NO_TARGETS;
  return useMemo(() => new Map(targets.map((t) => [t.id, t])), [targets]);
}

/** The rule set that is worked on. */
export function useRuleSet(): RuleSet {
  return useAppSelector(currentRuleSet) as RuleSet;
}

/** What of the rule set that is worked on does not change while its rules are dragged. */
export function useRuleSetFacts(): Pick<RuleSet, "id" | "name" | "method"> {
  return useAppSelector((state) => {
    const { id, name, method } = currentRuleSet(state) as RuleSet;
    return { id, name, method };
  }, shallowEqual);
}

/** The rule set that is chosen, else the first. */
export function currentRuleSet({ document, view }: AppState): RuleSet | undefined {
  const sets = document.present?.ruleSets;
  return sets?.find((set) => set.id === view.ruleSet) ?? sets?.[0];
}

/** The sensor that is worked on: the chosen one, else the first. */
export function useSensor(): Sensor {
  return useAppSelector(
    ({ document, view }) => document.present?.sensors.find((s) => s.id === view.sensor) ?? document.present?.sensors[0],
  ) as Sensor;
}

/** Gives the rules that are worked on as they are when it is asked, so that a drag renders nothing anew that only could. */
export function useRules(): () => readonly Rule[] {
  const store = useStore<AppState>();
  return useCallback(() => currentRuleSet(store.getState())?.rules ?? [], [store]);
}

/** The id of the rule set that is worked on, which does not change while its rules are dragged. */
export const useRuleSetId = (): RuleSetId => useAppSelector((state) => currentRuleSet(state)?.id) as RuleSetId;

/** The targets as lists show them: what is to be recognised first, then the backgrounds. */
export function targetsFirst(targets: readonly Target[]): Target[] {
  return [...targets.filter((t) => t.kind !== "background"), ...targets.filter((t) => t.kind === "background")];
}
