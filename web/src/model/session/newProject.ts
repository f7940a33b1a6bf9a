import { emptyProject, joinReadings, type Project } from "@perceptum/core/project";

/** A project to begin with. */
export const newProject = (): Project => joinReadings(emptyProject("New project"), new Map());
