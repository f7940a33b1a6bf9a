import type { TargetId } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import type { Sensor } from "@perceptum/core/readings";
import type { RuleSet, Target } from "@perceptum/core/rules";
import { useCallback, useMemo } from "react";
import { shallowEqual, useStore } from "react-redux";
import { type AppState, useAppSelector } from "../state/store";
import { useSession } from "./context";

/** The open project. Only below the project page, where there is one. */
export function useProject(): ProjectDocument {
  return useAppSelector((state) => state.document.present) as ProjectDocument;
}

/** The open project as it was before a drag that is still going on: for what need not follow every move. */
export function useSettledProject(): ProjectDocument {
  return useAppSelector((state) => state.document.settled) as ProjectDocument;
}

/** What makes one undoable change of the open project: what to call it, and what the project becomes. */
export type Edit = (what: string, change: (project: ProjectDocument) => ProjectDocument, gesture?: string) => void;

/** The same function for as long as the project is open: it reads the project when it is called, and does nothing once it is left. */
export function useEdit(): Edit {
  const session = useSession();
  return useCallback((what, change, gesture) => session.edit(what, change, gesture), [session]);
}

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

/** Changes the rule set that is worked on. */
export function useEditRules(): (what: string, change: (set: RuleSet) => RuleSet, gesture?: string) => void {
  const store = useStore<AppState>();
  const edit = useEdit();
  return useCallback(
    (what, change, gesture) => {
      const set = currentRuleSet(store.getState());
      if (set !== undefined) edit(what, (project) => withRuleSet(project, change(set)), gesture);
    },
    [store, edit],
  );
}

/** The project with one rule set replaced. */
export function withRuleSet(project: ProjectDocument, ruleSet: RuleSet): ProjectDocument {
  return { ...project, ruleSets: project.ruleSets.map((set) => (set.id === ruleSet.id ? ruleSet : set)) };
}

/** The targets as lists show them: what is to be recognised first, then the backgrounds. */
export function targetsFirst(targets: readonly Target[]): Target[] {
  return [...targets.filter((t) => t.kind !== "background"), ...targets.filter((t) => t.kind === "background")];
}
