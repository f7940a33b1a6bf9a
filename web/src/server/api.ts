import type { AnswerOf, EndpointName, ProblemDetails, ProjectSummary } from "@perceptum/contract";
import { at } from "@perceptum/contract/paths";
import { capital } from "@perceptum/core/phrases";
import type { ProjectDocument } from "@perceptum/core/project";
import { ask } from "./ask";

/** The schemas of all that the server answers. They come when they are needed first: a first screen does without. */
export function contract(): Promise<typeof import("@perceptum/contract")> {
  coming ??= import("@perceptum/contract").catch((error: unknown) => {
    coming = undefined;
    throw error;
  });
  return coming;
}
let coming: Promise<typeof import("@perceptum/contract")> | undefined;

const NOT_AGREED =
  "the server answered something that this page does not understand; load the page again, and where that does not help, start the server again";

/** The JSON of an answer that went well. @throws Error with a sentence where it is not what the contract says */
export async function answerOf<K extends EndpointName>(name: K, response: Response): Promise<AnswerOf<K>> {
  const body: unknown = await response.json().catch(() => undefined);
  return agreed(name, response.status, body);
}

async function agreed<K extends EndpointName>(name: K, status: number, body: unknown): Promise<AnswerOf<K>> {
  const { checkAnswer } = await contract();
  try {
    return checkAnswer(name, status, body);
  } catch {
    throw new Error(NOT_AGREED);
  }
}

/** Reads the problem that an answer tells of. What tells of none says its status. */
export async function problemIn(response: Response): Promise<Pick<ProblemDetails, "detail"> & Partial<ProblemDetails>> {
  const said: unknown = await response.json().catch(() => undefined);
  // Where the server is gone the schemas may not come any more.
  const read = await contract().then(
    ({ ProblemDetails }) => ProblemDetails.safeParse(said).data,
    () => undefined,
  );
  return read ?? { detail: `the server answered ${response.status}` };
}

/** Reads the sentence of the problem that an answer tells of. */
export const problemOf = async (response: Response): Promise<string> => (await problemIn(response)).detail;

/** Asks something that must go well. @throws Error with a sentence */
export async function asked(path: string, init?: RequestInit): Promise<Response> {
  const response = await ask(path, init);
  if (!response.ok) throw new Error(await problemOf(response));
  return response;
}

/**
 * The first project of a database that nobody has used yet; undefined where there is no such. It is looked for before
 * the schemas have come.
 *
 * @throws Error with a sentence
 */
export async function fetchUntouched(): Promise<string | undefined> {
  const list = (await (await asked(at("projects"))).json()) as Partial<ProjectSummary>[];
  return list.every(({ openedAt }) => openedAt === null) ? list[0]?.id : undefined;
}

/** Words as a sentence. */
export const sentence = (words: string): string => `${capital(words)}${/[.!?]$/.test(words) ? "" : "."}`;

/** The sentence of what failed. */
export const failureText = (error: unknown): string =>
  typeof error === "string"
    ? error
    : error instanceof Error
      ? sentence(error.message)
      : "The server cannot be reached.";

/** A project with the revision that it is at. */
export interface FetchedProject {
  project: ProjectDocument;
  revision: number;
}

/** A project as it is at the server, before it is checked: by `agreedProject`, once it is shown. @throws Error with a sentence */
export async function fetchUnchecked(id: string, signal?: AbortSignal): Promise<FetchedProject> {
  const response = await asked(at("project", { id }), signal ? { signal } : {});
  return {
    project: (await response.json()) as ProjectDocument,
    revision: Number(response.headers.get("ETag")?.replace(/\W/g, "")),
  };
}

/** A project that the server gave. @throws Error with a sentence where it is none */
export const agreedProject = (project: unknown): Promise<ProjectDocument> => agreed("project", 200, project);

/** A project as it is at the server. @throws Error with a sentence */
export async function fetchProject(id: string, signal?: AbortSignal): Promise<FetchedProject> {
  const fetched = await fetchUnchecked(id, signal);
  await agreedProject(fetched.project);
  return fetched;
}
