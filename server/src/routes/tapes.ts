import { MAX_READINGS_BYTES, TapeIdSchema } from "@perceptum/core/names";
import { Router } from "express";
import { checked, notFound, notValid, Problem } from "../problem";
import type { Services } from "../Services";
import { withBody } from "../work/incoming";

/** The readings of a project's tapes, as float64 chunks and as CSV. They are kept once and never overwritten. */
export function tapeRoutes({ projects, readings, pool, folder }: Services): Router {
  const router = Router({ mergeParams: true });

  router.get("/:tape/readings", async (request, response) => {
    response.type("application/octet-stream").send(await bytesOf(request.params as Params));
  });

  router.get("/:tape/readings.csv", async (request, response) => {
    const bytes = await bytesOf(request.params as Params);
    await pool.run("writeReadings", bytes.length, [bytes], async (text) => {
      response.type("text/csv").send(Buffer.from(text.buffer, text.byteOffset, text.byteLength));
    });
  });

  router.put("/:tape/readings", async (request, response) => {
    const { id, tape: name } = request.params as Params;
    const tape = checked(TapeIdSchema, name);
    if (request.get("Content-Type") !== "application/octet-stream")
      throw new Problem(415, "Not readings", "readings come as application/octet-stream");
    if (!(await projects.has(id))) throw notFound("the project");
    const door = { folder, most: MAX_READINGS_BYTES, what: "this tape" };
    await withBody(request, door, (body, bytes) =>
      pool.run("readReadings", bytes, [body], async (read) => {
        if ("fault" in read) throw notValid(read.fault);
        if ((await readings.putTape(id, tape, read.readings, Date.now())) === "others")
          throw new Problem(409, "Other readings", "this tape has other readings already; a new one needs another id");
      }),
    );
    response.status(204).end();
  });

  async function bytesOf({ id, tape }: Params): Promise<Buffer> {
    const bytes = await readings.bytesOf(id, tape);
    if (bytes === undefined) throw notFound("the tape");
    return bytes;
  }

  return router;
}

type Params = { id: string; tape: string };
