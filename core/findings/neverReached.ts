import { factsOf, type Step } from "../behaviour";
import type { Finding, FindingKind, FindingPlace } from "./finding";
import type { FixChange } from "./fix";
import { endOf, stepLists } from "./stepsOf";

/** Steps that stand after one that leads to another mode or finishes: they are never done. */
export const neverReached: FindingKind = {
  code: "never-reached",
  find({ project: { behaviour } }) {
    const lists: { steps: Step[]; of: string; place: FindingPlace; change: FixChange }[] = [
      ...stepLists(behaviour).map(({ at, steps }) => ({
        steps,
        of: "",
        place: { stage: "act" as const, ...at },
        change: { at, endsWhereItLeads: true as const },
      })),
      ...behaviour.routines.map(({ id, name, steps }) => ({
        steps,
        of: ` of the routine ${name}`,
        place: { stage: "act" as const, routine: id },
        change: { routine: id, endsWhereItLeads: true as const },
      })),
    ];
    return lists.flatMap(({ steps, of, place, change }): Finding[] => {
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
          title: beyond === 1 ? `The last step${of} is never done` : `The last ${beyond} steps${of} are never done`,
          sentence: `${what} before ${beyond === 1 ? "it" : "them"}. Put ${beyond === 1 ? "it" : "them"} first, or leave ${beyond === 1 ? "it" : "them"} out.`,
          place,
          fix: { label: beyond === 1 ? "Leave it out" : "Leave them out", change },
        },
      ];
    });
  },
};
