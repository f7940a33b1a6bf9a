import type * as z from "zod";
import { zodProblem } from "../names";
import { documentShape, gapsIn, type ProjectDocument } from "../project";

const PARTS = Object.entries(documentShape) as [keyof ProjectDocument, z.ZodType][];

/** What is wrong with a project that was right before it was changed; what is the same as before is not looked at again. */
export function problemIn(project: ProjectDocument, before: ProjectDocument): string | undefined {
  for (const [part, schema] of PARTS) {
    const [now, was] = [project[part], before[part]];
    if (now === was) continue;
    const read = schema.safeParse(changedOf(now, was));
    if (!read.success) return zodProblem(read.error).message;
  }
  return gapsIn(project)[0]?.message;
}

/** Of a list that did not grow, what is new in it. */
function changedOf(now: unknown, was: unknown): unknown {
  if (!Array.isArray(now) || !Array.isArray(was) || now.length > was.length) return now;
  const known = new Set<unknown>(was);
  return now.filter((thing) => !known.has(thing));
}
