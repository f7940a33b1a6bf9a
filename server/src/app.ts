import { existsSync } from "node:fs";
import { join } from "node:path";
import { type AnswerOf, CONTRACT, openApiDocument } from "@perceptum/contract";
import compression from "compression";
import express, { type Express, type RequestHandler } from "express";
import { rateLimit } from "express-rate-limit";
import helmet from "helmet";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import { notFound, Problem, problemHandler } from "./problem";
import { answer, routeOf } from "./routes/answering";
import { frameRoutes } from "./routes/frames";
import { linkRoutes } from "./routes/links";
import { projectRoutes } from "./routes/projects";
import { runRoutes } from "./routes/runs";
import { tapeRoutes } from "./routes/tapes";
import type { Services } from "./Services";

/** The whole server as an Express application; `webFolder` holds the built pages. */
export function makeApp(services: Services, webFolder: string, log: Logger): Express {
  const app = express();
  app.disable("x-powered-by");
  app.set("etag", false);
  app.use(
    pinoHttp({
      logger: log,
      serializers: {
        req: ({ method, url }: { method: string; url: string }) => ({ method, url }),
        res: ({ statusCode }: { statusCode: number }) => ({ status: statusCode }),
      },
      // The handler of problems logs what failed, with why.
      customLogLevel: () => "info",
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", "data:", "blob:"],
          mediaSrc: ["'self'", "blob:"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          baseUri: ["'none'"],
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(ownPagesOnly);
  // Readings go as they are: to pack them takes longer than to copy them.
  app.use(
    compression({ filter: (request, response) => !isReadings(response) && compression.filter(request, response) }),
  );

  const { addProject, run } = CONTRACT;
  app.post(
    [addProject, run].map(({ path }) => routeOf(path)),
    notTooOften,
  );
  // It is made when it is first asked for: that takes a tenth of a second.
  let description: AnswerOf<"ownDescription"> | undefined;
  answer(app, "health", (_, reply) => reply.json(200, { ok: true }));
  answer(app, "ownDescription", (_, reply) => {
    description ??= openApiDocument() as AnswerOf<"ownDescription">;
    reply.json(200, description);
  });
  projectRoutes(app, services);
  tapeRoutes(app, services);
  frameRoutes(app, services);
  runRoutes(app, services);
  linkRoutes(app, services);
  app.use("/api", () => {
    throw notFound("this address");
  });

  app.use(
    "/assets",
    express.static(join(webFolder, "assets"), {
      immutable: true,
      maxAge: "1y",
      setHeaders(response, path) {
        if (PROVES.test(path)) response.setHeader("Content-Security-Policy", MAY_RUN_WRITTEN);
      },
    }),
  );
  app.use("/assets", () => {
    throw notFound("this part of the page");
  });
  app.use(express.static(webFolder, { index: false, maxAge: 0 }));
  app.get("/p/:id{/:stage}", async (request, response, next) => {
    const { id } = request.params;
    // The page comes also where the database cannot be read, and says so.
    const tapes = await services.projects.tapesOf(id).catch(() => undefined);
    if (tapes !== undefined) response.set("Link", ahead(`/api/projects/${id}`, tapes.slice(0, MOST_AHEAD)));
    next();
  });
  app.get("/{*path}", (_, response) => {
    const page = join(webFolder, "index.html");
    if (!existsSync(page)) throw new Problem(503, "Not built", "the pages are not built yet; npm run build makes them");
    response.set("Cache-Control", "no-cache").sendFile(page);
  });
  app.use((request) => {
    throw new Problem(405, "Not here", `${request.method} is not answered at this address`);
  });
  app.use(problemHandler(log));
  return app;
}

/** Runs are asked for and projects added at most so often a minute: a program that loops must not fill the disk. */
export const MOST_A_MINUTE = 600;
const notTooOften = rateLimit({
  windowMs: 60_000,
  limit: MOST_A_MINUTE,
  standardHeaders: "draft-8",
  legacyHeaders: false,
  handler: () => {
    throw new Problem(429, "Too often", `this is done at most ${MOST_A_MINUTE} times a minute; wait a little`);
  },
});

const isReadings = (response: { getHeader(name: string): unknown }) =>
  String(response.getHeader("Content-Type")).startsWith("application/octet-stream");

/** The worker that runs the code that was written for a robot; it sees no page, and asks for nothing. */
const PROVES = /proof\.worker-[^/\\]*\.js$/;
const MAY_RUN_WRITTEN = "default-src 'none'; script-src 'self' 'unsafe-eval'";

/** So many tapes at most are sent for ahead of the page's own asking. */
const MOST_AHEAD = 20;

/** Lets the browser fetch a project and its readings while the scripts that will ask for them still load. */
const ahead = (project: string, tapes: readonly string[]) =>
  [project, ...tapes.map((tape) => `${project}/tapes/${tape}/readings`)]
    .map((url) => `<${url}>; rel=preload; as=fetch; crossorigin`)
    .join(", ");

const LOCAL = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/** Another page in the same browser, or a name that was made to point here, must not reach this server. */
const ownPagesOnly: RequestHandler = (request, _, next) => {
  const host = request.get("Host") ?? "";
  if (!LOCAL.test(host)) throw new Problem(403, "Not from here", "this server answers only to its local address");
  const origin = request.get("Origin");
  if (origin !== undefined && origin !== `http://${host}`)
    throw new Problem(403, "Not from here", "this server answers only its own pages");
  // A link on another page may lead to a page of ours; nothing else of it may ask.
  const site = request.get("Sec-Fetch-Site") ?? "none";
  const follows =
    request.method === "GET" && request.get("Sec-Fetch-Dest") === "document" && !/^\/api(\/|$)/i.test(request.path);
  if (site !== "none" && site !== "same-origin" && !follows)
    throw new Problem(403, "Not from here", "this server answers only its own pages");
  next();
};
