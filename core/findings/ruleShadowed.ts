import { ruleMatches } from "../rules";
import { timeOf } from "../teaching";
import { bandSets, type Finding, type FindingKind, nameOf } from "./finding";

/** A rule that matches readings and yet never comes first: an earlier one has them all. */
export const ruleShadowed: FindingKind = {
  code: "rule-shadowed",
  find(scene) {
    return bandSets(scene).flatMap((set) => {
      const tapes = scene.tapesOf(set.id);
      const labels = scene.ruleLabels(set);
      const first = new Uint32Array(set.rules.length + 1);
      for (const column of labels) for (let i = 0; i < column.length; i++) first[column[i]]++;
      return set.rules.flatMap((rule, r): Finding[] => {
        if (!rule.on || first[r + 1] > 0 || rule.any.length === 0) return [];
        const by = new Uint32Array(set.rules.length + 1);
        let example: { tape: (typeof tapes)[number]; index: number } | undefined;
        tapes.forEach((tape, k) => {
          for (let i = 0; i < tape.truth.length; i++) {
            // What a later rule or none takes, this one does not match.
            if (labels[k][i] === 0 || labels[k][i] > r || !ruleMatches(rule, tape.block.at(i))) continue;
            by[labels[k][i]]++;
            example ??= { tape, index: i };
          }
        });
        const matched = by.reduce((a, b) => a + b, 0);
        if (matched === 0 || example === undefined) return [];
        const earlier = set.rules[by.indexOf(Math.max(...by)) - 1];
        const name = nameOf(scene.project, rule.target);
        const other = nameOf(scene.project, earlier.target);
        return [
          {
            code: "rule-shadowed",
            level: "warning",
            title: `The rule for ${name} never comes first`,
            sentence: `It matches ${matched} readings, and an earlier rule has them all, most often that for ${other}. Put it before that one, or narrow that one.`,
            place: {
              stage: "decide",
              ruleSet: set.id,
              rule: rule.id,
              target: rule.target,
              reading: { tape: example.tape.head.id, t: timeOf(example.tape, example.index) },
            },
            fix: {
              label: "Put it first",
              change: { ruleSet: set.id, rule: rule.id, before: earlier.id },
            },
          },
        ];
      });
    });
  },
};
