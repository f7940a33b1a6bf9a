import { TapeIdSchema } from "@perceptum/core/project";
import { decodeReadings, writeCsv } from "@perceptum/core/readings";
import express, { Router } from "express";
import { checked, notFound, Problem } from "../problem";
import type { ProjectStore } from "../storage/ProjectStore";

/** Two million readings of four float64 columns, and a little. */
const MAX_BYTES = 66 * 1024 * 1024;

/** The readings of a project's tapes, as float64 chunks and as CSV. */
export function tapeRoutes(store: ProjectStore): Router {
  const router = Router({ mergeParams: true });

  router.get("/:tape/readings", async (request, response) => {
    response.type("application/octet-stream").send(await bytesOf(request.params as Params));
  });

  router.get("/:tape/readings.csv", async (request, response) => {
    response.type("text/csv").send(writeCsv(decodeReadings(await bytesOf(request.params as Params))));
  });

  router.put(
    "/:tape/readings",
    express.raw({ type: "application/octet-stream", limit: MAX_BYTES }),
    async (request, response) => {
      const { id, tape } = request.params as Params;
      if ((await store.get(id)) === undefined) throw notFound("the project");
      if (!(request.body instanceof Uint8Array))
        throw new Problem(415, "Not readings", "readings come as application/octet-stream");
      await store.putReadings(id, checked(TapeIdSchema, tape), decoded(request.body));
      response.status(204).end();
    },
  );

  async function bytesOf({ id, tape }: Params): Promise<Buffer> {
    const bytes = await store.readingBytes(id, tape);
    if (bytes === undefined) throw notFound("the tape");
    return bytes;
  }

  return router;
}

type Params = { id: string; tape: string };

function decoded(bytes: Uint8Array) {
  try {
    return decodeReadings(bytes);
  } catch (error) {
    throw new Problem(422, "Not valid", (error as Error).message);
  }
}
