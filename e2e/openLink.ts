import { listensOf } from "../core/live";
import type { ProjectDocument } from "../core/project";

/** Opens a link as a page does, whose readings are those of a project's sensors; gives the events that it then hears. */
export async function openLink(
  { url, link, signal }: { url: string; link: string; signal?: AbortSignal },
  project: Pick<ProjectDocument, "sensors" | "links">,
): Promise<Response> {
  const at = `${url}/api/links/${link}`;
  const opened = await fetch(`${at}/opening`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(listensOf(project)),
  });
  if (opened.status !== 201) throw new Error(await opened.text());
  const { watch } = (await opened.json()) as { watch: string };
  return fetch(`${at}/events?watch=${watch}`, signal ? { signal } : {});
}
