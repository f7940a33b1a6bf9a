import { readFile } from "node:fs/promises";
import { LinkId, MOST_PICTURE_BYTES, MOST_READINGS_BYTES, PICTURES_TAKEN } from "@perceptum/core/live";
import { Router } from "express";
import { withBody } from "../heavy/incoming";
import type { Body } from "../heavy/jobs";
import { notOpen } from "../links/LinkHub";
import { checked, notFound, Problem } from "../problem";
import type { Scene } from "../Scene";

/** How readings come: a JSON object a line. */
const LINES_TAKEN = ["application/jsonl", "application/x-ndjson", "application/json", "text/plain"] as const;

/** How the bytes of each kind of picture begin. */
const BEGINS: Record<(typeof PICTURES_TAKEN)[number], (bytes: Buffer) => boolean> = {
  "image/png": (bytes) => bytes.toString("latin1", 1, 4) === "PNG",
  "image/jpeg": (bytes) => bytes[0] === 0xff && bytes[1] === 0xd8,
  "image/webp": (bytes) => bytes.toString("latin1", 8, 12) === "WEBP",
};

/** What a robot sends, and the page that watches it. */
export function linkRoutes({ links, folder }: Scene): Router {
  const router = Router({ mergeParams: true });

  router.get("/:link/events", (request, response) => {
    links.watch(checked(LinkId, request.params.link), response);
  });

  router.get("/:link/pictures/:n", (request, response) => {
    const picture = links.fetchPicture(request.params.link, Number(request.params.n));
    if (picture === undefined) throw notFound("this picture");
    response.set("Cache-Control", "no-store").type(picture.type).send(picture.bytes);
  });

  router.post("/:link/readings", async (request, response) => {
    const id = checked(LinkId, request.params.link);
    // Before the body is read: a robot that nobody watches sends in vain.
    if (!links.isOpen(id)) throw notOpen();
    const bytesOf = async (body: Body) => ("file" in body ? await readFile(body.file) : Buffer.from(body.bytes));
    if (LINES_TAKEN.some((taken) => request.is(taken))) {
      const taken = await withBody(request, { folder, most: MOST_READINGS_BYTES, what: "this body" }, async (body) =>
        links.takeLines(id, (await bytesOf(body)).toString("utf8")),
      );
      response.json(taken);
      return;
    }
    const type = PICTURES_TAKEN.find((taken) => request.is(taken));
    if (type === undefined)
      throw new Problem(
        415,
        "Not known",
        `a link takes ${LINES_TAKEN[0]}, or one picture: ${PICTURES_TAKEN.join(", ")}`,
      );
    await withBody(request, { folder, most: MOST_PICTURE_BYTES, what: "this picture" }, async (body) => {
      const bytes = await bytesOf(body);
      if (!BEGINS[type](bytes)) throw new Problem(422, "Not valid", `what was sent is no ${type}`);
      links.takePicture(id, { type, bytes });
    });
    response.status(204).end();
  });

  return router;
}
