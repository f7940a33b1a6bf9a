import type { FindingKind } from "./finding";

/** A rule whose target the project does not have gives its readings no name. */
export const ruleNamesMissingTarget: FindingKind = {
  code: "rule-names-missing-target",
  find({ project }) {
    const known = new Set(project.targets.map((t) => t.id));
    return project.ruleSets.flatMap((set) =>
      set.rules
        .filter((rule) => !known.has(rule.target))
        .map((rule) => ({
          code: "rule-names-missing-target" as const,
          level: "error" as const,
          title: `A rule is for “${rule.target}”, which is no target`,
          sentence: "What it takes stays unknown. Add the target again, or delete the rule.",
          place: { stage: "decide" as const, ruleSet: set.id, rule: rule.id },
          fix: { label: "Delete the rule", change: { ruleSet: set.id, remove: rule.id } },
        })),
    );
  },
};
