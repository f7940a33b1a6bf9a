import { capital } from "@perceptum/core/phrases";
import type { Project, ProjectDocument } from "@perceptum/core/project";
import { ask } from "./ask";

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

/** Reads the problem that an answer tells of: its title, where it has one, and a sentence. */
export async function problemIn(response: Response): Promise<{ title?: string; detail: string }> {
  const detail = `the server answered ${response.status}`;
  const said = (await response.json().catch(() => null)) as { title?: string; detail?: string } | null;
  return { detail, ...said };
}

/** Reads the sentence of the problem that an answer tells of. */
export const problemOf = async (response: Response): Promise<string> => (await problemIn(response)).detail;

/** Every project at the server. @throws Error with a sentence */
export async function fetchProjects(): Promise<ProjectSummary[]> {
  const response = await ask("/api/projects");
  if (!response.ok) throw new Error(await problemOf(response));
  return (await response.json()) as ProjectSummary[];
}

/** Adds a project; the list reads itself anew whenever it is shown. @throws Error with a sentence */
export async function addProject(project: Project): Promise<{ id: string }> {
  const response = await ask("/api/projects", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(project),
  });
  if (!response.ok) throw new Error(await problemOf(response));
  return (await response.json()) as { id: string };
}

/** Words as a sentence. */
export const sentence = (words: string): string => `${capital(words)}${/[.!?]$/.test(words) ? "" : "."}`;

/** The sentence of a request that failed: of one of those above, or of the list's. */
export function failureText(error: unknown): string {
  if (error instanceof Error) return sentence(error.message);
  const { data, status } = error as { data?: { detail?: string }; status?: number | string };
  if (data?.detail !== undefined) return sentence(data.detail);
  return typeof status === "number" ? `The server answered ${status}.` : "The server cannot be reached.";
}

/** A project as it is at the server. @throws Error with a sentence */
export async function fetchProject(
  id: string,
  signal?: AbortSignal,
): Promise<{ project: ProjectDocument; revision: number }> {
  const response = await ask(`/api/projects/${id}`, signal ? { signal } : {});
  if (!response.ok) throw new Error(await problemOf(response));
  return {
    project: (await response.json()) as ProjectDocument,
    revision: Number(response.headers.get("ETag")?.replace(/\W/g, "")),
  };
}
