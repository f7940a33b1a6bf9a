import { GATE_RESERVE, gateName } from "../behaviour";
import { machineOf } from "../world";
import type { Finding, FindingKind } from "./finding";
import { atShare, cm, percentBelow, seenWithin, sortedBy, sortingsOf } from "./sortings";

/** A gate is not open when the piece comes to it: the way from the sensor is too short at this speed. */
export const gateTooLate: FindingKind = {
  code: "gate-too-late",
  find({ project }) {
    const top = machineOf(project.robot).topSpeed;
    return sortingsOf(project).flatMap((sorting): Finding[] => {
      const { mode, response, gate, sensor, sees, speed, opensAfterMs = 0 } = sorting;
      const room = gate.atMm - gate.reachMm / 2 - sees - sensor.optics.spotMm / 2;
      const needMs = seenWithin(project, sensor) + opensAfterMs + gate.travelMs * GATE_RESERVE;
      const way = (speed * needMs) / 1000;
      if (way <= room) return [];
      const most = percentBelow(((room / needMs) * 1000) / top);
      const at = Math.ceil(gate.atMm + way - room);
      const waits = opensAfterMs > 0 ? `, waiting ${opensAfterMs / 1000} s` : "";
      return [
        {
          code: "gate-too-late",
          level: "error",
          title: `${gateName(gate)} opens too late for ${sortedBy(project, sorting)}`,
          sentence: `From ${sensor.name} to where it begins are ${cm(room)} of belt. Seeing the piece${waits} and opening take ${(needMs / 1000).toFixed(2)} s, in which the belt goes ${cm(way)} ${atShare(project, speed)}. ${most >= 1 ? `Up to ${most} % would do, or ` : ""}${opensAfterMs > 0 ? `${most >= 1 ? "" : "Up to "}a shorter wait, or ` : ""}a gate at ${at} mm.`,
          place: { stage: "act", mode: mode.id, response: response.id, about: gate.id },
          ...(most >= 1 && {
            fix: { label: `Slow down to ${most} %`, change: { slowDown: mode.id, most: most / 100 } },
          }),
        },
      ];
    });
  },
};
