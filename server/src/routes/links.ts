import { readFile } from "node:fs/promises";
import { type AnswerOf, CONTRACT, LINES_TAKEN, TABLE_TAKEN } from "@perceptum/contract";
import {
  type Address,
  lineRows,
  MOST_PICTURE_BYTES,
  MOST_READINGS_BYTES,
  PICTURES_TAKEN,
  readAddress,
  tableRows,
} from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import type { IRouter, Request } from "express";
import { notOpen } from "../links/LinkHub";
import { notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";
import type { Body } from "../work/jobs";
import { answer, takenType } from "./answering";

/** How the bytes of each kind of picture begin. */
const BEGINS: Record<(typeof PICTURES_TAKEN)[number], (bytes: Buffer) => boolean> = {
  "image/png": (bytes) => bytes.toString("latin1", 1, 4) === "PNG",
  "image/jpeg": (bytes) => bytes[0] === 0xff && bytes[1] === 0xd8,
  "image/webp": (bytes) => bytes.toString("latin1", 8, 12) === "WEBP",
};

const bytesOf = async (body: Body) => ("file" in body ? await readFile(body.file) : Buffer.from(body.bytes));

/** What a robot sends and is told, and the page that watches it. */
export function linkRoutes(router: IRouter, { links, pool, folder }: Services): void {
  answer(router, "openLink", ({ params: { link }, body }, reply) => {
    reply.json(201, { watch: links.openFor(link, body) });
  });

  answer(router, "listenBy", ({ params: { link }, body }, reply) => {
    links.listenBy(link, body);
    reply.done(204);
  });

  answer(router, "watchLink", ({ params: { link }, query: { watch = "" } }, { response }) => {
    links.watch(link, watch, response);
  });

  answer(router, "hearCommands", ({ params: { link } }, { response }) => {
    links.listen(link, response);
  });

  answer(router, "connectLine", async ({ params: { link }, body }, reply) => {
    await links.connect(link, readAddress(body.address) as Exclude<Address, { by: "stdio" }>);
    reply.done(204);
  });

  answer(router, "startAct", async ({ request, params: { link, act } }, reply) => {
    await withProject(request, link, (project) => links.start(link, act, project));
    reply.done(201);
  });

  answer(router, "changeAct", async ({ request, params: { link, act } }, reply) => {
    await withProject(request, link, (project) => links.change(link, act, project));
    reply.done(204);
  });

  answer(router, "watchAct", ({ params: { link, act } }, reply) => {
    links.watchAct(link, act);
    reply.done(204);
  });

  answer(router, "stopAct", ({ params: { link, act } }, reply) => {
    links.stop(link, act);
    reply.done(204);
  });

  /** Takes in the project that is to act, or that changes what acts. */
  async function withProject(request: Request, link: string, use: (project: ProjectDocument) => void): Promise<void> {
    if (!links.isOpen(link)) throw notOpen();
    const door = { folder, most: CONTRACT.startAct.body.most, what: "the project without its readings" };
    await withBody(request, door, (body, bytes) =>
      pool.run("checkDocument", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        use(read.project);
      }),
    );
  }

  answer(router, "picture", ({ params: { link, n } }, reply) => {
    const picture = links.fetchPicture(link, Number(n));
    if (picture === undefined) throw notFound("this picture");
    reply.response.set("Cache-Control", "no-store");
    reply.raw(200, picture.type, picture.bytes);
  });

  answer(router, "sendReadings", async ({ request, params: { link }, query: { sensor } }, reply) => {
    // Before the body is read: a robot that nobody watches sends in vain.
    if (!links.isOpen(link)) throw notOpen();
    const type = takenType(request, { types: [...LINES_TAKEN, TABLE_TAKEN, ...PICTURES_TAKEN] });
    if (isPicture(type)) {
      await withBody(request, { folder, most: MOST_PICTURE_BYTES, what: "this picture" }, async (body) => {
        const bytes = await bytesOf(body);
        if (!BEGINS[type](bytes)) throw new Problem(422, "Not valid", `what was sent is no ${type}`);
        links.takePicture(link, { type, bytes });
      });
      reply.done(204);
      return;
    }
    const take = async (body: Body): Promise<AnswerOf<"sendReadings">> => {
      const text = (await bytesOf(body)).toString("utf8");
      const read = type === TABLE_TAKEN ? tableRows(text, sensor) : { rows: lineRows(text) };
      if ("problem" in read) throw new Problem(422, "Not valid", read.problem);
      return links.takeRows(link, read.rows);
    };
    reply.json(200, await withBody(request, { folder, most: MOST_READINGS_BYTES, what: "this body" }, take));
  });
}

const isPicture = (type: string): type is (typeof PICTURES_TAKEN)[number] =>
  (PICTURES_TAKEN as readonly string[]).includes(type);
