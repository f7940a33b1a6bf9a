import { readFile } from "node:fs/promises";
import {
  type Address,
  LineAddress,
  LinkId,
  Listens,
  lineRows,
  MOST_PICTURE_BYTES,
  MOST_READINGS_BYTES,
  PICTURES_TAKEN,
  readAddress,
  tableRows,
} from "@perceptum/core/live";
import { MAX_DOCUMENT_BYTES } from "@perceptum/core/names";
import type { ProjectDocument } from "@perceptum/core/project";
import express, { type Request, Router } from "express";
import * as z from "zod";
import { notOpen } from "../links/LinkHub";
import { checked, notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";
import type { Body } from "../work/jobs";

/** How readings come: a JSON object a line. */
const LINES_TAKEN = ["application/jsonl", "application/x-ndjson", "application/json", "text/plain"] as const;

/** How the bytes of each kind of picture begin. */
const BEGINS: Record<(typeof PICTURES_TAKEN)[number], (bytes: Buffer) => boolean> = {
  "image/png": (bytes) => bytes.toString("latin1", 1, 4) === "PNG",
  "image/jpeg": (bytes) => bytes[0] === 0xff && bytes[1] === 0xd8,
  "image/webp": (bytes) => bytes.toString("latin1", 8, 12) === "WEBP",
};

const bytesOf = async (body: Body) => ("file" in body ? await readFile(body.file) : Buffer.from(body.bytes));

/** A description of a project's sensors has so many bytes at most. */
const MOST_LISTENS_BYTES = 1024 * 1024;

/** An act has an id that its page makes. */
const ActId = z.uuid();

/** What a robot sends and is told, and the page that watches it. */
export function linkRoutes({ links, pool, folder }: Services): Router {
  const router = Router({ mergeParams: true });

  router.post("/:link/opening", express.json({ limit: MOST_LISTENS_BYTES }), (request, response) => {
    const watch = links.openFor(checked(LinkId, request.params.link), checked(Listens, request.body));
    response.status(201).json({ watch });
  });

  router.put("/:link/listens", express.json({ limit: MOST_LISTENS_BYTES }), (request, response) => {
    links.listenBy(checked(LinkId, request.params.link), checked(Listens, request.body));
    response.status(204).end();
  });

  router.get("/:link/events", (request, response) => {
    links.watch(checked(LinkId, request.params.link), String(request.query.watch ?? ""), response);
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

  router.post("/:link/acts/:act", async (request, response) => {
    await withProject(request, (link, act, project) => links.start(link, act, project));
    response.status(201).end();
  });

  router.put("/:link/acts/:act", async (request, response) => {
    await withProject(request, (link, act, project) => links.change(link, act, project));
    response.status(204).end();
  });

  router.put("/:link/acts/:act/watch", (request, response) => {
    const { link, act } = request.params;
    links.watchAct(checked(LinkId, link), checked(ActId, act));
    response.status(204).end();
  });

  router.delete("/:link/acts/:act", (request, response) => {
    const { link, act } = request.params;
    links.stop(checked(LinkId, link), checked(ActId, act));
    response.status(204).end();
  });

  /** Takes in the project that is to act, or that changes what acts. */
  async function withProject(
    request: Request,
    use: (link: string, act: string, project: ProjectDocument) => void,
  ): Promise<void> {
    const link = checked(LinkId, request.params.link);
    const act = checked(ActId, request.params.act);
    if (!links.isOpen(link)) throw notOpen();
    const door = { folder, most: MAX_DOCUMENT_BYTES, what: "the project without its readings" };
    await withBody(request, door, (body, bytes) =>
      pool.run("checkDocument", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        use(link, act, read.project);
      }),
    );
  }

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
        const read = isCsv
          ? tableRows(text, typeof sensor === "string" ? sensor : undefined)
          : { rows: lineRows(text) };
        if ("problem" in read) throw new Problem(422, "Not valid", read.problem);
        return links.takeRows(id, read.rows);
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
