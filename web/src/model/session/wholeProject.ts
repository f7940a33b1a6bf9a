import { joinProject, type Project, type ProjectDocument } from "@perceptum/core/project";
import { framesOf } from "@perceptum/core/readings";
import type { Frames } from "./Frames";
import type { Readings } from "./Readings";

/**
 * A project with all that belongs to it, as a project file holds it; a tape whose readings are damaged at the server is
 * left out. @throws Error with a sentence where a frame cannot be had
 */
export async function wholeProject(
  { tapes, ...rest }: ProjectDocument,
  { readings, frames }: { readings: Pick<Readings, "all" | "damaged">; frames: Frames },
): Promise<Project> {
  const document = { ...rest, tapes: tapes.filter(({ id }) => !readings.damaged.has(id)) };
  return joinProject(document, readings.all, await frames.forFile(framesOf(document.tapes)));
}
