import { gateName } from "../behaviour";
import { leastGap, lengthOf } from "../world";
import type { Finding, FindingKind } from "./finding";
import { atShare, beltsOf, cm, sortedBy, sortingsOf } from "./sortings";

/** A response waits for a piece to come to its gate, and another can pass the sensor meanwhile. */
export const gateWaits: FindingKind = {
  code: "gate-waits",
  find({ project }) {
    const belts = beltsOf(project).map((course) => ({ course, gap: leastGap(course.pieces) }));
    const [close] = belts.sort((a, b) => a.gap + lengthOf(a.course.pieces) - b.gap - lengthOf(b.course.pieces));
    if (close === undefined) return [];
    const follows = close.gap + lengthOf(close.course.pieces);
    return sortingsOf(project).flatMap((sorting): Finding[] => {
      const { mode, response, gate, speed, opensAfterMs, takesMs } = sorting;
      if (opensAfterMs === undefined || response.busy !== "let it finish") return [];
      const way = (speed * takesMs) / 1000;
      if (way <= follows) return [];
      return [
        {
          code: "gate-waits",
          level: "error",
          title: `While a piece is on its way to ${gateName(gate)}, another is not answered`,
          sentence: `The response to ${sortedBy(project, sorting)} takes ${(takesMs / 1000).toFixed(1)} s, in which the belt goes ${cm(way)} ${atShare(project, speed)}. On ${close.course.name} the next piece can come after ${cm(follows)}, with a gap of ${cm(close.gap)}, and is skipped then. “send to” remembers every piece that is under way.`,
          place: { stage: "act", mode: mode.id, response: response.id, about: gate.id },
          fix: {
            label: "Send it instead",
            change: { at: { mode: mode.id, response: response.id }, gate: gate.id, sendInstead: gate.crate },
          },
        },
      ];
    });
  },
};
