import { CONTRACT } from "@perceptum/contract";
import type { IRouter } from "express";
import { notFound, notValid } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";
import { answer, takenType } from "./answering";

/** The frames of a project's cameras, as PNG by the SHA-256 of their bytes. They never change. */
export function frameRoutes(router: IRouter, { projects, frames, pool, folder }: Services): void {
  answer(router, "frame", async ({ params: { id, name } }, reply) => {
    const bytes = await frames.bytesOf(id, name);
    if (bytes === undefined) throw notFound("the frame");
    reply.response.set("Cache-Control", "private, max-age=31536000, immutable");
    reply.raw(200, "image/png", bytes);
  });

  answer(router, "keepFrame", async ({ request, params: { id, name } }, reply) => {
    const { body } = CONTRACT.keepFrame;
    takenType(request, body);
    if (!(await projects.has(id))) throw notFound("the project");
    await withBody(request, { folder, most: body.most, what: "this frame" }, (taken, bytes) =>
      pool.run("readFrame", bytes, [taken, name], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        await frames.put(id, read.frame, Date.now());
      }),
    );
    reply.done(204);
  });
}
