import type { ProjectDocument } from "@perceptum/core/project";
import { RUN_LIMIT_MS, RunError, run, traceJsonLines } from "@perceptum/core/world";
import express, { Router } from "express";
import * as z from "zod";
import { checked, notFound, Problem } from "../problem";
import type { Scene } from "../Scene";

const Choice = z.strictObject({
  course: z.string(),
  start: z.string().optional(),
  light: z.string().optional(),
  seed: z.number().int().min(0).max(2_147_483_647).optional(),
  limitMs: z.number().min(0).max(RUN_LIMIT_MS).optional(),
});

/** Runs on the server: the same trace, byte for byte, as in the browser and at the command line. */
export function runRoutes({ projects }: Scene): Router {
  const router = Router({ mergeParams: true });
  router.post("/", express.json(), async (request, response) => {
    const found = await projects.get((request.params as { id: string }).id);
    if (found === undefined) throw notFound("the project");
    try {
      const trace = run(JSON.parse(found.document) as ProjectDocument, checked(Choice, request.body));
      response.type("application/jsonl").send(traceJsonLines(trace));
    } catch (error) {
      if (error instanceof RunError) throw new Problem(422, "No such run", error.message);
      throw error;
    }
  });
  return router;
}
