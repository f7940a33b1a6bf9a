import { byColour, isCamera, REPORT_KINDS } from "../readings";
import { timeOf } from "../teaching";
import type { Finding, FindingKind } from "./finding";

/** A smaller share of readings at the scale's end may be glints. */
const SHARE = 0.02;

/** Readings at the scale's end: how much brighter the thing is cannot be seen, and its hue and saturation are wrong. */
export const clips: FindingKind = {
  code: "clips",
  find({ project, tapes }) {
    const counts = project.targets.map(() => ({
      marked: 0,
      clipped: 0,
      camera: false,
      at: undefined as Finding["place"]["reading"],
    }));
    for (const tape of tapes) {
      const { head, sensor, raw, truth } = tape;
      const { bright } = REPORT_KINDS.get(sensor.reports);
      const ends = byColour(raw.channels, sensor).flatMap(({ channel, values }) =>
        bright.includes(channel) ? [{ column: values, end: (sensor.scale[channel] ?? [0, 1])[1] }] : [],
      );
      if (ends.length === 0) continue;
      for (let i = 0; i < truth.length; i++) {
        if (truth[i] === 0) continue;
        const own = counts[truth[i] - 1];
        own.marked++;
        for (const { column, end } of ends) {
          if (column[i] < end) continue;
          own.clipped++;
          own.camera ||= isCamera(sensor);
          own.at ??= { tape: head.id, t: timeOf(tape, i) };
          break;
        }
      }
    }
    return project.targets.flatMap((target, t): Finding[] => {
      const { marked, clipped, camera, at } = counts[t];
      if (clipped === 0 || clipped < SHARE * marked) return [];
      return [
        {
          code: "clips",
          level: "warning",
          title: `${target.name} is too bright for the sensor`,
          sentence: `${clipped} of ${marked} readings have a channel at its greatest value, so their hue and saturation are not to be trusted. ${camera ? "Let in less light, or shade it." : "Mount the sensor higher, or shade it."}`,
          place: { stage: "sense", target: target.id, ...(at && { reading: at }) },
        },
      ];
    });
  },
};
