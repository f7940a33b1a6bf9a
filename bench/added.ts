import { emptyProject, joinReadings, type ProjectDocument } from "@perceptum/core/project";
import { encodeReadings, type ReadingsByTape } from "@perceptum/core/readings";

/** Adds a project at a server; its readings and its frames (PNG by their names) go their own way. Gives its id. */
export async function added(
  url: string,
  made: { document: ProjectDocument; readings: ReadingsByTape; pngs?: ReadonlyMap<string, Uint8Array<ArrayBuffer>> },
): Promise<string> {
  const api = `${url}/api/projects`;
  const put = async (address: string, type: string, body: BodyInit, headers = {}) => {
    const answer = await fetch(address, { method: "PUT", headers: { "Content-Type": type, ...headers }, body });
    if (!answer.ok) throw new Error(await answer.text());
  };
  const answer = await fetch(api, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(joinReadings(emptyProject("New"), new Map())),
  });
  const { id } = (await answer.json()) as { id: string };
  for (const [name, bytes] of made.pngs ?? []) await put(`${api}/${id}/frames/${name}`, "image/png", bytes);
  for (const [tape, raw] of made.readings)
    await put(`${api}/${id}/tapes/${tape}/readings`, "application/octet-stream", encodeReadings(raw));
  const revision = (await fetch(`${api}/${id}`)).headers.get("ETag") ?? "";
  await put(`${api}/${id}`, "application/json", JSON.stringify(made.document), { "If-Match": revision });
  return id;
}
