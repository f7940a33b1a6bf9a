import { CONTRACT, PATHS } from "@perceptum/contract";
import { fileName, type TapeId } from "@perceptum/core/names";
import type { IRouter } from "express";
import { notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";
import { answer } from "./answering";

const etag = (revision: number) => `"${revision}"`;

/** Projects: list, add, read, replace with `If-Match`, delete, and the whole as a project file. */
export function projectRoutes(router: IRouter, { projects, readings, frames, pool, folder }: Services): void {
  answer(router, "projects", async (_, reply) => {
    reply.json(200, await projects.list());
  });

  answer(router, "addProject", async ({ request }, reply) => {
    const door = { folder, most: CONTRACT.addProject.body.most, what: "the project file" };
    const id = await withBody(request, door, (body, bytes) =>
      pool.run("readFile", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        return projects.add(read);
      }),
    );
    reply.response.location(`${PATHS.projects}/${id}`);
    reply.json(201, { id });
  });

  answer(router, "project", async ({ params: { id } }, reply) => {
    const found = await projects.get(id);
    if (found === undefined) throw notFound("the project");
    reply.response.set("ETag", etag(found.revision));
    reply.raw(200, "application/json", found.document);
  });

  answer(router, "replaceProject", async ({ request, params: { id }, headers }, reply) => {
    const match = /^"(\d{1,15})"$/.exec(headers["if-match"] ?? "");
    if (match === null)
      throw new Problem(428, "Revision needed", "a change must say with If-Match which revision it was made on");
    const door = { folder, most: CONTRACT.replaceProject.body.most, what: "the project without its readings" };
    const revision = await withBody(request, door, (body, bytes) =>
      pool.run("readDocument", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        return projects.replace(id, Number(match[1]), read.document, headers["idempotency-key"]);
      }),
    );
    reply.response.set("ETag", etag(revision));
    reply.json(200, { revision });
  });

  answer(router, "markOpened", async ({ params: { id } }, reply) => {
    if (!(await projects.markOpened(id))) throw notFound("the project");
    reply.done(204);
  });

  answer(router, "deleteProject", async ({ params: { id } }, reply) => {
    if (!(await projects.remove(id, Date.now()))) throw notFound("the project");
    reply.done(204);
  });

  answer(router, "projectFile", async ({ params: { id } }, reply) => {
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
      reply.response.attachment(`${fileName(name)}.perceptum.json`);
      reply.raw(200, "application/json", text);
    });
  });
}
