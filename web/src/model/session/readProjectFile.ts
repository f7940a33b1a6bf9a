import type { Project } from "@perceptum/core/project";

/** Reads a project file that was chosen or dropped; what is wrong comes back as a sentence with its place. */
export async function readProjectFile(file: File): Promise<{ project: Project } | { problem: string }> {
  // The schema is large and seldom needed, so it comes only now.
  const { MAX_PROJECT_FILE_BYTES, readProject } = await import("./projectReader");
  if (file.size > MAX_PROJECT_FILE_BYTES) {
    return {
      problem: `${file.name} has ${Math.round(file.size / 1_048_576)} MB; at most 200 MB are read. Nothing was changed.`,
    };
  }
  const read = readProject(await file.text());
  if ("project" in read) return read;
  return { problem: `${file.name}, ${read.problem.place}: ${read.problem.message}. Nothing was changed.` };
}
