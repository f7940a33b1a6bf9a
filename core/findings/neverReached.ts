import { factsOf } from "../behaviour";
import type { Finding, FindingKind } from "./finding";
import { endOf, stepLists } from "./stepsOf";

/** Steps that stand after one that leads to another mode or finishes: they are never done. */
export const neverReached: FindingKind = {
  code: "never-reached",
  find({ project: { behaviour } }) {
    return stepLists(behaviour).flatMap(({ at, steps }): Finding[] => {
      const end = endOf(behaviour, steps);
      const beyond = steps.length - 1 - end;
      if (end < 0 || beyond === 0) return [];
      const { leadsTo } = factsOf(steps[end]);
      const mode = behaviour.modes.find((m) => m.id === leadsTo);
      const what =
        leadsTo === "finish"
          ? "The behaviour finishes"
          : mode === undefined
            ? `“${factsOf(steps[end]).does}” leads away`
            : `It goes on to ${mode.name}`;
      return [
        {
          code: "never-reached",
          level: "warning",
          title: beyond === 1 ? "The last step is never done" : `The last ${beyond} steps are never done`,
          sentence: `${what} before ${beyond === 1 ? "it" : "them"}. Put ${beyond === 1 ? "it" : "them"} first, or leave ${beyond === 1 ? "it" : "them"} out.`,
          place: { stage: "act", ...at },
          fix: { label: beyond === 1 ? "Leave it out" : "Leave them out", change: { at, endsWhereItLeads: true } },
        },
      ];
    });
  },
};
