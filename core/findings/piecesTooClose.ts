import { GATE_RESERVE, gateName } from "../behaviour";
import { ruleSetOf } from "../rules";
import { leastGap, machineOf } from "../world";
import { type Finding, type FindingKind, sensorName } from "./finding";
import { atShare, beltsOf, cm, cmAbove, percentBelow, sortingsOf } from "./sortings";

/** Pieces follow each other so closely that a gate cannot move between two, or that two of a kind count as one. */
export const piecesTooClose: FindingKind = {
  code: "pieces-too-close",
  find({ project }) {
    const top = machineOf(project.robot).topSpeed;
    const sortings = sortingsOf(project);
    if (sortings.length === 0) return [];
    const needs = sortings.map(({ gate, mode, sensor, speed }) => {
      const { release, rejoinMs } = ruleSetOf(project, sensor).steady;
      const { spotMm } = sensor.optics;
      // Its edge lies within the spot with the first reading, or has gone on for a period since.
      const slack = (ms: number) => spotMm / 2 + (speed * (sensor.periodMs + ms)) / 1000;
      return {
        gate,
        mode,
        sensor,
        speed,
        toMove: gate.reachMm + slack(gate.travelMs * GATE_RESERVE),
        toPart: spotMm + (speed * (release * sensor.periodMs + rejoinMs)) / 1000,
      };
    });
    const move = needs.reduce((a, b) => (b.toMove > a.toMove ? b : a));
    const part = needs.reduce((a, b) => (b.toPart > a.toPart ? b : a));
    return beltsOf(project).flatMap((course): Finding[] => {
      const gap = leastGap(course.pieces);
      const place = { stage: "prove" as const, course: course.id };
      const at = atShare(project, move.speed);
      if (gap < move.toMove) {
        const { gate, mode, sensor, speed, toMove } = move;
        // A gap that it needs however slowly the belt goes.
        const standing = gate.reachMm + sensor.optics.spotMm / 2;
        const most = percentBelow(((speed / top) * (gap - standing)) / (toMove - standing));
        return [
          {
            code: "pieces-too-close",
            level: "warning",
            title: `Pieces on ${course.name} come too close for ${gateName(gate)}`,
            sentence: `As little as ${cm(gap)} can lie between two. To open and close between them ${gateName(gate)} needs ${cm(toMove)} ${at}: the ${cm(gate.reachMm)} that it clears, and what the belt goes meanwhile. Lay them ${cmAbove(course.pieces.every + toMove - gap)} apart, ${most >= 1 ? `slow down to ${most} %, ` : ""}or let it clear less.`,
            place,
            ...(most >= 1 && {
              fix: { label: `Slow down to ${most} %`, change: { slowDown: mode.id, most: most / 100 } },
            }),
          },
        ];
      }
      if (gap < part.toPart) {
        const set = ruleSetOf(project, part.sensor);
        const spare =
          ((gap - part.sensor.optics.spotMm) * 1000) / part.speed - set.steady.release * part.sensor.periodMs;
        const rejoinMs = Math.floor(spare / 10) * 10;
        return [
          {
            code: "pieces-too-close",
            level: "warning",
            title: `Two of a kind on ${course.name} can count as one`,
            sentence: `As little as ${cm(gap)} can lie between two, and ${sensorName(project, part.sensor.id)} needs ${cm(part.toPart)} ${at} to tell that one has gone and another has come. Lay them ${cmAbove(course.pieces.every + part.toPart - gap)} apart, or let a shorter time count as the same visit in Decide.`,
            place,
            ...(rejoinMs >= 0 && {
              fix: { label: `Rejoin within ${rejoinMs} ms`, change: { ruleSet: set.id, rejoinMs } },
            }),
          },
        ];
      }
      return [];
    });
  },
};
