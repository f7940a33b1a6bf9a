import { emptyProject, joinProject, type Project } from "@perceptum/core/project";

/** A project to begin with. */
export const newProject = (): Project => joinProject(emptyProject("New project"), new Map());
