import { packReadings, type RawReadings, unpackReadings } from "../readings";
import type { TapeId } from "./ids";
import type { Project, ProjectDocument } from "./schema";

/** Readings by tape. */
export type ReadingsByTape = ReadonlyMap<TapeId, RawReadings>;

/** Takes the readings out of a project. */
export function splitProject(project: Project): { document: ProjectDocument; readings: Map<TapeId, RawReadings> } {
  return {
    document: { ...project, tapes: project.tapes.map(({ readings: _, ...head }) => head) },
    readings: new Map(project.tapes.map((tape) => [tape.id, packReadings(tape.readings)])),
  };
}

/** Puts readings back; a tape without any is written empty. */
export function joinProject(document: ProjectDocument, readings: ReadingsByTape): Project {
  const none: RawReadings = {
    t: new Float64Array(),
    channels: { r: new Float64Array(), g: new Float64Array(), b: new Float64Array() },
  };
  return {
    ...document,
    tapes: document.tapes.map((head) => ({ ...head, readings: unpackReadings(readings.get(head.id) ?? none) })),
  };
}
