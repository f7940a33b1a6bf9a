import { RUN_LIMIT_MS } from "@perceptum/core/world";
import express, { Router } from "express";
import * as z from "zod";
import { checked, notFound, Problem } from "../problem";
import type { Services } from "../Services";

const Choice = z.strictObject({
  course: z.string(),
  start: z.string().optional(),
  light: z.string().optional(),
  seed: z.number().int().min(0).max(2_147_483_647).optional(),
  limitMs: z.number().min(0).max(RUN_LIMIT_MS).optional(),
});

/** Runs on the server: the same trace, byte for byte, as in the browser and at the command line. */
export function runRoutes({ projects, pool }: Services): Router {
  const router = Router({ mergeParams: true });
  router.post("/", express.json(), async (request, response) => {
    const found = await projects.get((request.params as { id: string }).id);
    if (found === undefined) throw notFound("the project");
    const made = await pool.runBeside("run", [found.document, checked(Choice, request.body)]);
    if ("problem" in made) throw new Problem(422, "No such run", made.problem);
    response.type("application/jsonl").send(made.lines);
  });
  return router;
}
