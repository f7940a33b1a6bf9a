import { gateName } from "../behaviour";
import { ruleSetOf } from "../rules";
import { lengthOf } from "../world";
import type { Finding, FindingKind } from "./finding";
import { atShare, cm, sortedBy, sortingsOf } from "./sortings";

/** A response closes its gate before the piece lies wholly within what it clears, so that the gate jams it. */
export const gateClosesEarly: FindingKind = {
  code: "gate-closes-early",
  find({ project }) {
    const long = Math.max(0, ...project.courses.map((course) => ("pieces" in course ? lengthOf(course.pieces) : 0)));
    return sortingsOf(project).flatMap((sorting): Finding[] => {
      const { mode, response, gate, sensor, sees, speed, opensAfterMs, closesAfterMs } = sorting;
      if (opensAfterMs === undefined || closesAfterMs === undefined || long === 0) return [];
      // It may be seen as soon as enough readings are there, its edge still within the spot with the first of them.
      const seenMs = (ruleSetOf(project, sensor).steady.hits - 1) * sensor.periodMs;
      const goes = (speed * (seenMs + closesAfterMs)) / 1000 - sensor.optics.spotMm / 2;
      const needs = gate.atMm - gate.reachMm / 2 + long - sees;
      if (goes >= needs) return [];
      const more = Math.ceil(((needs - goes) / speed) * 10) / 10;
      return [
        {
          code: "gate-closes-early",
          level: "error",
          title: `${gateName(gate)} closes on ${sortedBy(project, sorting)}`,
          sentence: `The belt has gone ${cm(goes)} ${atShare(project, speed)} since the piece came under ${sensor.name} when the gate closes, and it lies wholly within reach after ${cm(needs)}. Keep the gate open ${more} s longer.`,
          place: { stage: "act", mode: mode.id, response: response.id, about: gate.id },
        },
      ];
    });
  },
};
