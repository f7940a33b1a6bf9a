import { zodProblem } from "@perceptum/core/names";
import type { ErrorRequestHandler, Request, Response } from "express";
import type { Logger } from "pino";
import type * as z from "zod";
import { storageErrorOf } from "./storage/StorageError";
import type { Fault } from "./work/jobs";
import { WorkError } from "./work/WorkPool";

/** An answer that is not what was asked for, told as RFC 9457 problem details. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail);
  }
}

export const notFound = (what: string) =>
  new Problem(404, "Not found", `${what} is not there; it may have been deleted`);

/** What is wrong with a body, with its place: a line and column where it is no JSON at all, else a path. */
export const notValid = ({ place, message }: Fault) =>
  /^line \d/.test(place)
    ? new Problem(400, "Not JSON", `${place}: ${message}`, { place })
    : new Problem(422, "Not valid", `${place}: ${message}`, { place });

/** Checks a body once, at the edge. @throws Problem 422 with the place of what is wrong. */
export function checked<S extends z.ZodType>(schema: S, body: unknown): z.infer<S> {
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data;
  throw notValid(zodProblem(parsed.error));
}

/** A problem as the text of an answer. */
export const problemText = ({ status, title, message, more }: Problem) =>
  JSON.stringify({ type: "about:blank", title, status, detail: message, ...more });

/** Writes a problem as `application/problem+json`. */
export function sendProblem(response: Response, problem: Problem): void {
  if (problem.status === 503) response.set("Retry-After", "5");
  response.status(problem.status).type("application/problem+json").send(problemText(problem));
}

/** The last handler: every error leaves as problem details, and no stack trace leaves at all. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request: Request, response: Response, next) => {
    // The client has gone in the middle of its request: nobody is there to answer, and nothing is wrong here.
    if (request.destroyed && !request.complete) {
      log.info({ method: request.method, path: request.path }, "request given up");
      return;
    }
    const problem = asProblem(error);
    if (problem.status >= 500)
      log.error(
        { ...whatFailed(error), method: request.method, path: request.path, status: problem.status },
        "request failed",
      );
    if (response.headersSent) return next(error);
    sendProblem(response, problem);
  };
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const storage = storageErrorOf(error);
  if (storage !== undefined) return new Problem(storage.status, storage.title, storage.message);
  if (error instanceof WorkError) return new Problem(503, "Too much at once", error.message);
  const { type, status, message } = error as { type?: string; status?: number; message?: string };
  if (type === "entity.too.large") return new Problem(413, "Too large", "the body is larger than is read here");
  if (type === "entity.parse.failed") return new Problem(400, "Not JSON", `the body is not JSON: ${message}`);
  if (typeof status === "number" && status >= 400 && status < 500)
    return new Problem(status, "Bad request", message ?? "the request cannot be read");
  return new Problem(
    500,
    "Something went wrong here",
    "the server could not do this; nothing was changed. Its own output says more",
  );
}

/** What the log says of an error: its words and where it came from, but never a document that was being written. */
function whatFailed(error: unknown): { error: string; code?: string; at?: string } {
  const { cause } = error as { cause?: unknown };
  const first = (cause ?? error) as { driverError?: Error; message?: string; code?: string; stack?: string };
  const { message = String(first), code, stack } = (first.driverError ?? first) as typeof first;
  const at = stack
    ?.split("\n")
    .find((line) => line.trimStart().startsWith("at "))
    ?.trim();
  return { error: message.slice(0, 300), ...(code !== undefined && { code }), ...(at !== undefined && { at }) };
}
