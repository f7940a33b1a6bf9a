import { CONTRACT } from "@perceptum/contract";
import type { IRouter } from "express";
import { notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";
import { answer, takenType } from "./answering";

/** The readings of a project's tapes, as float64 chunks and as CSV. They are kept once and never overwritten. */
export function tapeRoutes(router: IRouter, { projects, readings, pool, folder }: Services): void {
  answer(router, "readings", async ({ params }, reply) => {
    reply.raw(200, "application/octet-stream", await bytesOf(params));
  });

  answer(router, "readingsCsv", async ({ params }, reply) => {
    const bytes = await bytesOf(params);
    await pool.run("writeReadings", bytes.length, [bytes], async (text) => {
      reply.raw(200, "text/csv", text);
    });
  });

  answer(router, "keepReadings", async ({ request, params: { id, tape } }, reply) => {
    const { body } = CONTRACT.keepReadings;
    takenType(request, body);
    if (!(await projects.has(id))) throw notFound("the project");
    await withBody(request, { folder, most: body.most, what: "this tape" }, (taken, bytes) =>
      pool.run("readReadings", bytes, [taken], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        if ((await readings.putTape(id, tape, read.readings, Date.now())) === "others")
          throw new Problem(409, "Other readings", "this tape has other readings already; a new one needs another id");
      }),
    );
    reply.done(204);
  });

  async function bytesOf({ id, tape }: { id: string; tape: string }): Promise<Buffer> {
    const bytes = await readings.bytesOf(id, tape);
    if (bytes === undefined) throw notFound("the tape");
    return bytes;
  }
}
