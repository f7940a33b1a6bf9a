import { MAX_PROJECT_BYTES, Project, ProjectDocument, writeProject } from "@perceptum/core/project";
import express, { Router } from "express";
import { checked, notFound, Problem } from "../problem";
import type { ProjectStore } from "../storage/ProjectStore";

const etag = (revision: number) => `"${revision}"`;

/** Projects: list, add, read, replace with `If-Match`, delete, and the whole as a project file. */
export function projectRoutes(store: ProjectStore): Router {
  const router = Router();

  router.get("/", async (_, response) => {
    response.json(await store.list());
  });

  router.post("/", express.json({ limit: MAX_PROJECT_BYTES }), async (request, response) => {
    const id = await store.add(checked(Project, request.body));
    response.status(201).location(`/api/projects/${id}`).json({ id });
  });

  router.get("/:id", async (request, response) => {
    const found = await store.get(request.params.id);
    if (found === undefined) throw notFound("the project");
    response.set("ETag", etag(found.revision)).json(found.document);
  });

  router.put("/:id", express.json({ limit: "10mb" }), async (request, response) => {
    const { id } = request.params;
    const match = /^"(\d+)"$/.exec(request.get("If-Match") ?? "");
    if (match === null)
      throw new Problem(428, "Revision needed", "a change must say with If-Match which revision it was made on");
    const document = checked(ProjectDocument, request.body);
    const stored = await store.tapesWithReadings(id);
    const bare = document.tapes.find((tape) => !stored.has(tape.id));
    if (bare !== undefined && (await store.get(id)) !== undefined) {
      throw new Problem(409, "Readings missing", `the tape “${bare.name}” has no readings here; send them first`);
    }
    const revision = await store.replace(id, Number(match[1]), document);
    if (revision === undefined) {
      const now = await store.get(id);
      if (now === undefined) throw notFound("the project");
      throw new Problem(
        412,
        "Changed elsewhere",
        `the project was changed elsewhere: it is at revision ${now.revision}, this change was made on ${match[1]}`,
        { revision: now.revision },
      );
    }
    response.set("ETag", etag(revision)).json({ revision });
  });

  router.put("/:id/opened", async (request, response) => {
    if (!(await store.markOpened(request.params.id))) throw notFound("the project");
    response.status(204).end();
  });

  router.delete("/:id", async (request, response) => {
    if (!(await store.remove(request.params.id))) throw notFound("the project");
    response.status(204).end();
  });

  router.get("/:id/file", async (request, response) => {
    const project = await store.whole(request.params.id);
    if (project === undefined) throw notFound("the project");
    const name = project.name.replace(/[^\p{L}\p{N}]+/gu, "-").toLowerCase();
    response.attachment(`${name}.perceptum.json`).type("application/json").send(writeProject(project));
  });

  return router;
}
