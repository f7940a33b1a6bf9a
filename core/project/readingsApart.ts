import type { TapeId } from "../names";
import {
  noReadings,
  packReadings,
  type RawReadings,
  REPORT_KINDS,
  type ReadingsByTape,
  unpackReadings,
} from "../readings";
import type { Project, ProjectDocument } from "./schema";

/** Takes the readings out of a project. */
export function splitProject(project: Project): { document: ProjectDocument; readings: Map<TapeId, RawReadings> } {
  return {
    document: { ...project, tapes: project.tapes.map(({ readings: _, ...head }) => head) },
    readings: new Map(project.tapes.map((tape) => [tape.id, packReadings(tape.readings)])),
  };
}

/** Puts readings back; a tape without any is written empty. */
export function joinProject(document: ProjectDocument, readings: ReadingsByTape): Project {
  return {
    ...document,
    tapes: document.tapes.map((head) => {
      const reports = document.sensors.find((s) => s.id === head.sensor)?.reports ?? "rgb";
      return { ...head, readings: unpackReadings(readings.get(head.id) ?? noReadings(REPORT_KINDS[reports].channels)) };
    }),
  };
}
