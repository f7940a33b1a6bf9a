import type { TapeId } from "../names";
import {
  channelsOnTape,
  framesOf,
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

/**
 * Puts readings and frames back; a tape without readings is written empty, what no tape shows is left out.
 *
 * @throws Error where a frame is not given that a tape shows: the file could not be read back
 */
export function joinProject(document: ProjectDocument, readings: ReadingsByTape, frames: FramesByName): Project {
  const held = framesOf(document.tapes).map((name) => {
    const png = frames[name];
    if (png === undefined) throw new Error(`the frame ${name} is not given`);
    return [name, png] as const;
  });
  const joined = joinReadings(document, readings);
  return held.length > 0 ? { ...joined, frames: Object.fromEntries(held) } : joined;
}

/** Puts readings back alone. What comes is a whole project only where no tape has frames. */
export function joinReadings(document: ProjectDocument, readings: ReadingsByTape): Project {
  return {
    ...document,
    tapes: document.tapes.map((head) => {
      const reports = document.sensors.find((s) => s.id === head.sensor)?.reports ?? "rgb";
      return { ...head, readings: unpackReadings(readings.get(head.id) ?? noReadings(channelsOnTape(reports))) };
    }),
  };
}
