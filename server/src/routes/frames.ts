import { FrameName } from "@perceptum/core/readings";
import { Router } from "express";
import { checked, notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";
import { MOST_FRAME_BYTES } from "../work/jobs";

/** The frames of a project's cameras, as PNG by the SHA-256 of their bytes. They never change. */
export function frameRoutes({ projects, frames, pool, folder }: Services): Router {
  const router = Router({ mergeParams: true });

  router.get("/:name", async (request, response) => {
    const { id, name } = request.params as Params;
    const bytes = await frames.bytesOf(id, name);
    if (bytes === undefined) throw notFound("the frame");
    response.set("Cache-Control", "private, max-age=31536000, immutable").type("image/png").send(bytes);
  });

  router.put("/:name", async (request, response) => {
    const { id, name: given } = request.params as Params;
    const name = checked(FrameName, given);
    if (request.get("Content-Type") !== "image/png")
      throw new Problem(415, "Not a frame", "a frame comes as image/png");
    if (!(await projects.has(id))) throw notFound("the project");
    await withBody(request, { folder, most: MOST_FRAME_BYTES, what: "this frame" }, (body, bytes) =>
      pool.run("readFrame", bytes, [body, name], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        await frames.put(id, read.frame, Date.now());
      }),
    );
    response.status(204).end();
  });

  return router;
}

type Params = { id: string; name: string };
