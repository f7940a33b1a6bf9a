import type { IRouter } from "express";
import { notFound, Problem } from "../problem";
import type { Services } from "../Services";
import { answer } from "./answering";

/** Runs on the server: the same trace, byte for byte, as in the browser and at the command line. */
export function runRoutes(router: IRouter, { projects, pool }: Services): void {
  answer(router, "run", async ({ params, body }, reply) => {
    const found = await projects.get(params.id);
    if (found === undefined) throw notFound("the project");
    const made = await pool.runBeside("run", [found.document, body]);
    if ("problem" in made) throw new Problem(422, "No such run", made.problem);
    reply.raw(200, "application/jsonl", made.lines);
  });
}
