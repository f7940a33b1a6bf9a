import type { TapeId } from "../names";
import {
  channelsOnTape,
  noReadings,
  packReadings,
  type RawReadings,
  type ReadingsByTape,
  unpackReadings,
} from "../readings";
import type { Project, ProjectDocument } from "./schema";

/** Frames by their names: PNG in base64. */
export type FramesByName = Readonly<Record<string, string>>;

/** Takes readings and frames out of a project. */
export function splitProject({ frames = {}, ...project }: Project): {
  document: ProjectDocument;
  readings: Map<TapeId, RawReadings>;
  frames: FramesByName;
} {
  return {
    document: { ...project, tapes: project.tapes.map(({ readings: _, ...head }) => head) },
    readings: new Map(project.tapes.map((tape) => [tape.id, packReadings(tape.readings)])),
    frames,
  };
}

/** Puts readings and frames back; a tape without readings is written empty. */
export function joinProject(document: ProjectDocument, readings: ReadingsByTape, frames: FramesByName = {}): Project {
  const named = [...new Set(document.tapes.flatMap((tape) => tape.frames ?? []))];
  const held = named.flatMap((name) => (frames[name] === undefined ? [] : [[name, frames[name]] as const]));
  return {
    ...document,
    tapes: document.tapes.map((head) => {
      const reports = document.sensors.find((s) => s.id === head.sensor)?.reports ?? "rgb";
      return { ...head, readings: unpackReadings(readings.get(head.id) ?? noReadings(channelsOnTape(reports))) };
    }),
    ...(held.length > 0 && { frames: Object.fromEntries(held) }),
  };
}
