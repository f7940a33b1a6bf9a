import { factsOf } from "../behaviour";
import type { TargetId } from "../names";
import { laidOut, machineOf } from "../world";
import { type Finding, type FindingKind, nameOf } from "./finding";
import { alongRail, extentOf } from "./patchSize";
import { stepLists, unfolded } from "./stepsOf";

/** A rejoin time this short is for a flicker within one visit. */
const FLICKER_MS = 500;

/** A rejoin time so long that the next patch of a target counts for the same visit: nothing arrives there. */
export const rejoinSwallows: FindingKind = {
  code: "rejoin-swallows",
  find({ project }) {
    const { behaviour, robot } = project;
    const steps = stepLists(behaviour).flatMap((list) => unfolded(behaviour, list.steps));
    const fastest = Math.max(0, ...steps.map((step) => factsOf(step).straightOn ?? 0)) * machineOf(robot).topSpeed;
    return project.ruleSets.flatMap((set): Finding[] => {
      const { rejoinMs } = set.steady;
      if (rejoinMs <= FLICKER_MS || fastest === 0) return [];
      const nearest = nearestPair(project);
      const time = nearest && (nearest.gap / fastest) * 1000;
      if (nearest === undefined || time === undefined || time > rejoinMs) return [];
      const next = Math.max(100, Math.min(FLICKER_MS, Math.floor(time / 200) * 100));
      return [
        {
          code: "rejoin-swallows",
          level: "warning",
          title: `Two patches of ${nameOf(project, nearest.target)} count as one visit`,
          sentence: `They lie ${nearest.gap < 100 ? `${Math.round(nearest.gap)} mm` : `${(nearest.gap / 10).toFixed(0)} cm`} apart on ${nearest.course}, which takes ${time < 1000 ? `${Math.round(time)} ms` : `${(time / 1000).toFixed(1)} s`}, and what comes back within ${rejoinMs / 1000} s is the same visit: the second one does not arrive.`,
          place: { stage: "decide", ruleSet: set.id },
          fix: { label: `Rejoin within ${next} ms`, change: { ruleSet: set.id, rejoinMs: next } },
        },
      ];
    });
  },
};

/** A patch is compared with so many that follow it. */
const NEXT = 200;

/** The two patches or plates of one target that lie nearest to one another, by the gap between them in mm. */
function nearestPair({ courses, targets }: Parameters<FindingKind["find"]>[0]["project"]) {
  const grounds = new Set(targets.filter((t) => t.kind === "background").map((t) => t.id));
  let best: { target: TargetId; gap: number; course: string } | undefined;
  for (const course of courses) {
    const laid = laidOut(course).patches.map(({ at, target, ...patch }) => ({ at, target, shape: alongRail(patch) }));
    for (const [i, a] of laid.entries())
      for (const b of laid.slice(i + 1, i + NEXT)) {
        const { target } = a;
        if (typeof target !== "string" || target !== b.target || grounds.has(target)) continue;
        const apart = Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]);
        const gap = Math.max(1, apart - (extentOf(a.shape).greatest + extentOf(b.shape).greatest) / 2);
        if (best === undefined || gap < best.gap) best = { target, gap, course: course.name };
      }
  }
  return best;
}
