import { freeId, numbered, type RuleId } from "../names";
import { REPORT_KINDS } from "../readings";
import { firstBands } from "../teaching";
import type { Finding, FindingKind } from "./finding";
import { targetsNamed } from "./targetsNamed";

/** A target that is marked and has neither rule nor reference: it will never be seen, nor what waits for it done. */
export const targetWithoutRule: FindingKind = {
  code: "target-without-rule",
  find({ project, marked, tapesOf }) {
    const awaited = targetsNamed(project.behaviour);
    return project.ruleSets.flatMap((set) => {
      const nearest = set.method === "nearest";
      const coded = project.sensors.filter((s) => s.ruleSet === set.id).every((s) => REPORT_KINDS.get(s.reports).coded);
      const known = new Set(
        nearest ? set.nearest.references.map((r) => r.target) : set.rules.filter((r) => r.on).map((r) => r.target),
      );
      // As long as there is no rule at all, the suggestion is what to turn to.
      if (coded || known.size === 0) return [];
      return project.targets.flatMap((target, t): Finding[] => {
        if (target.kind === "background" || marked(set.id)[t] === 0 || known.has(target.id)) return [];
        const off = set.rules.some((r) => r.target === target.id);
        const id = freeId<RuleId>(
          target.id,
          set.rules.map((r) => r.id),
        );
        const any = numbered("clause", [{ all: firstBands(tapesOf(set.id), t + 1) }]);
        const rule = { id, target: target.id, on: true, any };
        return [
          {
            code: "target-without-rule",
            level: awaited.has(target.id) ? "error" : "hint",
            title: nearest
              ? `${target.name} has no reference`
              : `${target.name} has no rule${off ? " that is on" : ""}`,
            sentence: `${marked(set.id)[t]} readings of it are marked, and all of them stay unknown or are taken for something else.${awaited.has(target.id) ? " What the behaviour does on it is never done." : ""}`,
            place: { stage: "decide", target: target.id },
            ...(!nearest &&
              !off && { fix: { label: "Add a rule", change: { ruleSet: set.id, rules: [...set.rules, rule] } } }),
          },
        ];
      });
    });
  },
};
