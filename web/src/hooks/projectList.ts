import type { ProjectSummary } from "@perceptum/contract";
import type { Project } from "@perceptum/core/project";
import { createApi, fakeBaseQuery } from "@reduxjs/toolkit/query/react";
import { failureText } from "../server/api";
import { addProject, deleteProject, fetchProjects } from "../server/list";

/** What was not changed need not be read again: where the server cannot be reached, the list stays as it was. */
const whereItWentWell = (_: unknown, error: unknown) => (error === undefined ? (["projects"] as const) : []);

/** What came of asking: an answer, or a sentence. */
const outcome = <T>(asked: Promise<T>): Promise<{ data: T } | { error: string }> =>
  asked.then(
    (data) => ({ data }),
    (error: unknown) => ({ error: failureText(error) }),
  );

/** The server's projects. Readings and autosave do not pass here: they are large, or must not be cached. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fakeBaseQuery<string>(),
  tagTypes: ["projects"],
  endpoints: (build) => ({
    projects: build.query<ProjectSummary[], void>({
      queryFn: () => outcome(fetchProjects()),
      providesTags: ["projects"],
    }),
    addProject: build.mutation<{ id: string }, Project>({
      queryFn: (project) => outcome(addProject(project)),
      invalidatesTags: whereItWentWell,
    }),
    removeProject: build.mutation<void, string>({
      queryFn: (id) => outcome(deleteProject(id)),
      invalidatesTags: whereItWentWell,
    }),
  }),
});

export const { useProjectsQuery, useAddProjectMutation, useRemoveProjectMutation } = api;
