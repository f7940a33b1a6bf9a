import type { ProjectSummary } from "@perceptum/contract";
import { at } from "@perceptum/contract/paths";
import type { Project } from "@perceptum/core/project";
import { answerOf, asked } from "./api";

/** Every project at the server. @throws Error with a sentence */
export const fetchProjects = async (): Promise<ProjectSummary[]> => answerOf("projects", await asked(at("projects")));

/** Adds a project; the list reads itself anew whenever it is shown. @throws Error with a sentence */
export const addProject = async (project: Project): Promise<{ id: string }> =>
  answerOf(
    "addProject",
    await asked(at("projects"), {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(project),
    }),
  );

/** Deletes a project. @throws Error with a sentence */
export async function deleteProject(id: string): Promise<void> {
  await asked(at("project", { id }), { method: "DELETE" });
}

/** A project with its readings and frames, as in a file. @throws Error with a sentence */
export const fetchWhole = async (id: string): Promise<Project> =>
  answerOf("projectFile", await asked(at("file", { id })));
