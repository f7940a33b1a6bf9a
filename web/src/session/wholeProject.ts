import { joinProject, type Project, type ProjectDocument } from "@perceptum/core/project";
import { framesOf } from "@perceptum/core/readings";
import type { Frames } from "./Frames";
import type { Readings } from "./Readings";

/** A project with all that belongs to it, as a project file holds it. @throws Error with a sentence where a frame cannot be had */
export async function wholeProject(
  document: ProjectDocument,
  { readings, frames }: { readings: Pick<Readings, "all">; frames: Frames },
): Promise<Project> {
  return joinProject(document, readings.all, await frames.forFile(framesOf(document.tapes)));
}
