import type { Project, ProjectDocument } from "@perceptum/core/project";
import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";

export interface ProjectSummary {
  id: string;
  name: string;
  revision: number;
  createdAt: number;
  updatedAt: number;
  openedAt: number | null;
  /** The paints of what is to be recognised. */
  paints: string[];
}

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

/** Problem details of an answer, as a sentence. */
export async function problemOf(response: Response): Promise<string> {
  try {
    const { detail } = (await response.json()) as { detail?: string };
    return detail ?? `the server answered ${response.status}`;
  } catch {
    return `the server answered ${response.status}`;
  }
}

/** The sentence inside a failed request of `api`. */
export function failureText(error: unknown): string {
  const { data, status } = error as { data?: { detail?: string }; status?: number | string };
  if (data?.detail !== undefined) return data.detail;
  return typeof status === "number" ? `The server answered ${status}.` : "The server cannot be reached.";
}

/** A project as it is at the server. @throws Error with a sentence */
export async function fetchProject(
  id: string,
  signal?: AbortSignal,
): Promise<{ project: ProjectDocument; revision: number }> {
  const response = await fetch(`/api/projects/${id}`, signal ? { signal } : {});
  if (!response.ok) throw new Error(await problemOf(response));
  return {
    project: (await response.json()) as ProjectDocument,
    revision: Number(response.headers.get("ETag")?.replace(/\W/g, "")),
  };
}
