import type { RuleSetId } from "../project/ids";
import type { ProjectDocument, Test } from "../project/schema";
import { type BoundPlace, setBound, withRule } from "./setBound";

/** A change of rules as plain data: one bound moved, or one test added to a clause. */
export type RuleChange =
  | { ruleSet: RuleSetId; place: BoundPlace; value: number | undefined }
  | { ruleSet: RuleSetId; rule: string; clause: number; add: Test };

/** The project with the change made. */
export function applyRuleChange<P extends Pick<ProjectDocument, "ruleSets">>(project: P, change: RuleChange): P {
  return {
    ...project,
    ruleSets: project.ruleSets.map((set) => {
      if (set.id !== change.ruleSet) return set;
      if ("place" in change) return setBound(set, change.place, change.value);
      return withRule(set, change.rule, (rule) => ({
        ...rule,
        any: rule.any.map((c, i) => (i === change.clause ? { all: [...c.all, change.add] } : c)),
      }));
    }),
  };
}
