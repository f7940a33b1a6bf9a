import { fileName, MAX_DOCUMENT_BYTES, MAX_PROJECT_FILE_BYTES, type TapeId } from "@perceptum/core/names";
import { Router } from "express";
import { notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";

const etag = (revision: number) => `"${revision}"`;

/** Projects: list, add, read, replace with `If-Match`, delete, and the whole as a project file. */
export function projectRoutes({ projects, readings, frames, pool, folder }: Services): Router {
  const router = Router();

  router.get("/", async (_, response) => {
    response.json(await projects.list());
  });

  router.post("/", async (request, response) => {
    const door = { folder, most: MAX_PROJECT_FILE_BYTES, what: "the project file" };
    const id = await withBody(request, door, (body, bytes) =>
      pool.run("readFile", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        return projects.add(read);
      }),
    );
    response.status(201).location(`/api/projects/${id}`).json({ id });
  });

  router.get("/:id", async (request, response) => {
    const found = await projects.get(request.params.id);
    if (found === undefined) throw notFound("the project");
    response.set("ETag", etag(found.revision)).type("application/json").send(found.document);
  });

  router.put("/:id", async (request, response) => {
    const { id } = request.params;
    const match = /^"(\d{1,15})"$/.exec(request.get("If-Match") ?? "");
    if (match === null)
      throw new Problem(428, "Revision needed", "a change must say with If-Match which revision it was made on");
    const send = request.get("Idempotency-Key");
    if (send !== undefined && !/^[\w-]{8,64}$/.test(send))
      throw new Problem(400, "Bad request", "an Idempotency-Key has 8 to 64 letters, digits and hyphens");
    const door = { folder, most: MAX_DOCUMENT_BYTES, what: "the project without its readings" };
    const revision = await withBody(request, door, (body, bytes) =>
      pool.run("readDocument", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        return projects.replace(id, Number(match[1]), read.document, send);
      }),
    );
    response.set("ETag", etag(revision)).json({ revision });
  });

  router.put("/:id/opened", async (request, response) => {
    if (!(await projects.markOpened(request.params.id))) throw notFound("the project");
    response.status(204).end();
  });

  router.delete("/:id", async (request, response) => {
    if (!(await projects.remove(request.params.id, Date.now()))) throw notFound("the project");
    response.status(204).end();
  });

  router.get("/:id/file", async (request, response) => {
    const { id } = request.params;
    const found = await projects.get(id);
    if (found === undefined) throw notFound("the project");
    const { name, tapes } = JSON.parse(found.document) as { name: string; tapes: { id: TapeId; frames?: string[] }[] };
    const held: [TapeId, Buffer][] = [];
    for (const tape of tapes) {
      const bytes = await readings.bytesOf(id, tape.id);
      if (bytes !== undefined) held.push([tape.id, bytes]);
    }
    const shown: [string, Buffer][] = [];
    for (const frame of new Set(tapes.flatMap((tape) => tape.frames ?? []))) {
      const bytes = await frames.bytesOf(id, frame);
      if (bytes !== undefined) shown.push([frame, bytes]);
    }
    const size = found.document.length + [...held, ...shown].reduce((sum, [, bytes]) => sum + bytes.length, 0);
    await pool.run("writeFile", size, [found.document, held, shown], async (text) => {
      response
        .attachment(`${fileName(name)}.perceptum.json`)
        .type("application/json")
        .send(Buffer.from(text.buffer, text.byteOffset, text.byteLength));
    });
  });

  return router;
}
