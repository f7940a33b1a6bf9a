import type { Project } from "@perceptum/core/project";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type { ProjectSummary } from "../server/api";

/** What was not changed need not be read again: where the server cannot be reached, the list stays as it was. */
const whereItWentWell = (_: unknown, error: unknown) => (error === undefined ? (["projects"] as const) : []);

/** The server's projects. Readings and autosave do not pass here: they are large, or must not be cached. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: "/api" }),
  tagTypes: ["projects"],
  endpoints: (build) => ({
    projects: build.query<ProjectSummary[], void>({ query: () => "projects", providesTags: ["projects"] }),
    addProject: build.mutation<{ id: string }, Project>({
      query: (body) => ({ url: "projects", method: "POST", body }),
      invalidatesTags: whereItWentWell,
    }),
    removeProject: build.mutation<void, string>({
      query: (id) => ({ url: `projects/${id}`, method: "DELETE" }),
      invalidatesTags: whereItWentWell,
    }),
  }),
});

export const { useProjectsQuery, useAddProjectMutation, useRemoveProjectMutation } = api;
