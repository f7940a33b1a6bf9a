import { readFile } from "node:fs/promises";
import {
  type Address,
  csvLines,
  LineAddress,
  LinkId,
  MOST_PICTURE_BYTES,
  MOST_READINGS_BYTES,
  PICTURES_TAKEN,
  readAddress,
} from "@perceptum/core/live";
import { MAX_DOCUMENT_BYTES } from "@perceptum/core/names";
import { ProjectDocument } from "@perceptum/core/project";
import express, { Router } from "express";
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

const bytesOf = async (body: Body) => ("file" in body ? await readFile(body.file) : Buffer.from(body.bytes));

/** @throws Problem 400 */
function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Problem(400, "Not JSON", (error as Error).message);
  }
}

/** What a robot sends and is told, and the page that watches it. */
export function linkRoutes({ links, folder }: Scene): Router {
  const router = Router({ mergeParams: true });

  router.get("/:link/events", (request, response) => {
    links.watch(checked(LinkId, request.params.link), response);
  });

  router.get("/:link/commands", (request, response) => {
    links.listen(checked(LinkId, request.params.link), response);
  });

  router.put("/:link/wire", express.json(), async (request, response) => {
    const address = checked(LineAddress, (request.body as { address?: unknown } | undefined)?.address);
    await links.connect(
      checked(LinkId, request.params.link),
      readAddress(address) as Exclude<Address, { by: "stdio" }>,
    );
    response.status(204).end();
  });

  router.put("/:link/act", async (request, response) => {
    const id = checked(LinkId, request.params.link);
    if (!links.isOpen(id)) throw notOpen();
    const door = { folder, most: MAX_DOCUMENT_BYTES, what: "the project without its readings" };
    await withBody(request, door, async (body) => {
      const text = (await bytesOf(body)).toString("utf8");
      links.act(id, checked(ProjectDocument, jsonOf(text)));
    });
    response.status(204).end();
  });

  router.delete("/:link/act", (request, response) => {
    links.stop(checked(LinkId, request.params.link));
    response.status(204).end();
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
    const isCsv = request.is("text/csv");
    if (isCsv || LINES_TAKEN.some((taken) => request.is(taken))) {
      const { sensor } = request.query;
      const taken = await withBody(request, { folder, most: MOST_READINGS_BYTES, what: "this body" }, async (body) => {
        const text = (await bytesOf(body)).toString("utf8");
        const read = isCsv ? csvLines(text, typeof sensor === "string" ? sensor : undefined) : { lines: text };
        if ("problem" in read) throw new Problem(422, "Not valid", read.problem);
        return links.takeLines(id, read.lines);
      });
      response.json(taken);
      return;
    }
    const type = PICTURES_TAKEN.find((taken) => request.is(taken));
    if (type === undefined)
      throw new Problem(
        415,
        "Not known",
        `a link takes ${LINES_TAKEN[0]}, text/csv, or one picture: ${PICTURES_TAKEN.join(", ")}`,
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
