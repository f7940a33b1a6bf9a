import type { ProjectDocument } from "../project";
import { REPORT_KINDS, type Sensor, wireOf } from "../readings";
import { placeOfReference, placeWidth } from "../rules";
import type { MarkedTape } from "../teaching";
import type { Finding, FindingKind } from "./finding";

/** More than this share of readings beyond white, in every channel, cannot come from the sensor that white was taken on. */
const BEYOND = 0.2;

/** White and dark, or references, that were taken on another sensor than the one they are used for. */
export const settingsOfAnotherSensor: FindingKind = {
  code: "settings-of-another-sensor",
  find({ project, tapes }) {
    const ofWhite = project.sensors.flatMap((sensor): Finding[] => {
      const sentence = whyNotOwn(project, sensor, tapes);
      if (sentence === undefined) return [];
      return [
        {
          code: "settings-of-another-sensor",
          level: "warning",
          title: `White and dark of ${sensor.name} seem to be another sensor’s`,
          sentence: `${sentence} Each sensor needs its own: take white and dark anew, on this one.`,
          place: { stage: "sense", about: sensor.id },
          fix: { label: "Drop white and dark", change: { sensor: sensor.id, reference: null } },
        },
      ];
    });
    return [...ofWhite, ...project.ruleSets.flatMap((set) => ofReferences(project, set))];
  },
};

function whyNotOwn(project: ProjectDocument, sensor: Sensor, tapes: readonly MarkedTape[]): string | undefined {
  const { reference, scale, reports } = sensor;
  if (reference === undefined) return undefined;
  const { channels } = REPORT_KINDS.get(reports);
  const off = channels.findIndex((channel, i) => {
    const [min, max] = scale[channel] ?? [0, 1];
    return reference.white[i] > max || reference.dark[i] < min;
  });
  if (off >= 0) {
    const [min, max] = scale[channels[off]] ?? [0, 1];
    return `Channel ${channels[off]} has dark ${reference.dark[off]} and white ${reference.white[off]}, but the sensor’s scale runs from ${min} to ${max}.`;
  }
  const twin = project.sensors.find(
    (other) => other.id !== sensor.id && JSON.stringify(other.reference) === JSON.stringify(reference),
  );
  if (twin) return `They are exactly those of ${twin.name}, to the last digit.`;
  const own = tapes.filter((tape) => tape.sensor.id === sensor.id);
  const wire = wireOf(sensor);
  let beyond = 0;
  let all = 0;
  for (const { raw } of own) {
    const columns = channels.map((_, i) => raw.channels[channels[wire[i]]] ?? raw.t);
    all += raw.t.length;
    for (let k = 0; k < raw.t.length; k++) {
      let i = 0;
      while (i < columns.length && columns[i][k] > reference.white[i]) i++;
      if (i === columns.length) beyond++;
    }
  }
  return beyond > BEYOND * all
    ? `${beyond} of its ${all} readings are brighter than that white in every channel.`
    : undefined;
}

/** References that hold too little to be compared with what the sensors of their rule set report. */
function ofReferences(project: ProjectDocument, set: ProjectDocument["ruleSets"][number]): Finding[] {
  if (set.method !== "nearest") return [];
  return project.sensors
    .filter((s) => s.ruleSet === set.id && !REPORT_KINDS.get(s.reports).coded)
    .flatMap((sensor): Finding[] => {
      const width = placeWidth(REPORT_KINDS.get(sensor.reports).features);
      const kept = set.nearest.references.filter((r) => placeOfReference(r).length === width);
      const lost = set.nearest.references.length - kept.length;
      if (lost === 0) return [];
      return [
        {
          code: "settings-of-another-sensor",
          level: "warning",
          title: `${lost} references cannot be compared with what ${sensor.name} reports`,
          sentence: `They were taken on a sensor of another kind and are passed over. ${sensor.name} reports ${REPORT_KINDS.get(sensor.reports).name}; make references from its own marks.`,
          place: { stage: "decide", ruleSet: set.id, about: sensor.id },
          fix: { label: "Drop them", change: { ruleSet: set.id, references: kept } },
        },
      ];
    });
}
