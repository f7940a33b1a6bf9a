import { zodProblem } from "@perceptum/core/project";
import type { ErrorRequestHandler, Request, Response } from "express";
import type { Logger } from "pino";
import type * as z from "zod";

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

/** Checks a body once, at the edge. @throws Problem 422 with the place of what is wrong. */
export function checked<S extends z.ZodType>(schema: S, body: unknown): z.infer<S> {
  const parsed = schema.safeParse(body);
  if (parsed.success) return parsed.data;
  const { message, place } = zodProblem(parsed.error);
  throw new Problem(422, "Not valid", `${place}: ${message}`, { place });
}

/** Writes a problem as `application/problem+json`. */
export function sendProblem(response: Response, { status, title, message, more }: Problem): void {
  response
    .status(status)
    .type("application/problem+json")
    .send(JSON.stringify({ type: "about:blank", title, status, detail: message, ...more }));
}

/** The last handler: every error leaves as problem details, and no stack trace leaves at all. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request: Request, response: Response, next) => {
    if (response.headersSent) return next(error);
    sendProblem(response, asProblem(error, request, log));
  };
}

function asProblem(error: unknown, request: Request, log: Logger): Problem {
  if (error instanceof Problem) return error;
  const { type, status, message } = error as { type?: string; status?: number; message?: string };
  if (type === "entity.too.large")
    return new Problem(413, "Too large", "the body is larger than is read; a project file may have 50 MB");
  if (type === "entity.parse.failed") return new Problem(400, "Not JSON", `the body is not JSON: ${message}`);
  if (typeof status === "number" && status >= 400 && status < 500)
    return new Problem(status, "Bad request", message ?? "the request cannot be read");
  log.error({ error, method: request.method, path: request.path }, "request failed");
  return new Problem(
    500,
    "Something went wrong here",
    "the server could not do this; nothing was changed. Its own output says more",
  );
}
