import type { ProjectDocument, RuleSet, Target, TargetId } from "@perceptum/core/project";
import { useCallback, useMemo } from "react";
import { edited } from "./document";
import { useAppDispatch, useAppSelector } from "./store";

/** The open project. Only below the project page, where there is one. */
export function useProject(): ProjectDocument {
  return useAppSelector((state) => state.document.present) as ProjectDocument;
}

/** Makes one undoable change of the open project: what it becomes, and what to call it. */
export function useEdit(): (
  what: string,
  change: (project: ProjectDocument) => ProjectDocument,
  gesture?: string,
) => void {
  const dispatch = useAppDispatch();
  const project = useProject();
  return useCallback(
    (what, change, gesture) => {
      dispatch(edited({ project: change(project), what, ...(gesture !== undefined && { gesture }) }));
    },
    [dispatch, project],
  );
}

/** Targets by id. */
export function useTargets(): ReadonlyMap<TargetId, Target> {
  const { targets } = useProject();
  return useMemo(() => new Map(targets.map((t) => [t.id, t])), [targets]);
}

/** The rule set that is worked on: the first. */
export function useRuleSet(): RuleSet {
  return useProject().ruleSets[0];
}

/** The project with one rule set replaced. */
export function withRuleSet(project: ProjectDocument, ruleSet: RuleSet): ProjectDocument {
  return { ...project, ruleSets: project.ruleSets.map((set) => (set.id === ruleSet.id ? ruleSet : set)) };
}
