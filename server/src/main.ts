import { readdirSync, readFileSync, rmSync } from "node:fs";
import { createServer } from "node:http";
import type { Socket } from "node:net";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import { type Logger, pino } from "pino";
import { makeApp } from "./app";
import { LinkHub } from "./links/LinkHub";
import { Problem, problemText } from "./problem";
import { backUp, restore, tellBackups } from "./storage/backups";
import type { Database } from "./storage/Database";
import { FrameStore } from "./storage/FrameStore";
import { DatabaseError, openDatabase } from "./storage/openDatabase";
import { ProjectStore } from "./storage/ProjectStore";
import { ReadingsStore } from "./storage/ReadingsStore";
import { JOBS } from "./work/jobs";
import { WorkPool } from "./work/WorkPool";

const HOST = "127.0.0.1";
/** The built server lies in server/dist; from there to the repository's folder. */
const HERE = dirname(fileURLToPath(import.meta.url));
const ROOT = resolve(HERE, "../..");
const USE =
  "perceptum serve [--port 4180] [--data DIR] [--demo] [--log-level LEVEL], or perceptum restore [DAY] [--data DIR]";
const HOUR_MS = 60 * 60 * 1000;
/** Requests that are under way when the server is told to end have so long. */
const FINISH_MS = 10_000;
/** Headers have so long to come in. */
const HEADERS_MS = 15_000;

/** Says what is wrong on the last line that the person sees, and ends with the code. */
function giveUp(message: string, code: number): never {
  process.stderr.write(`perceptum: ${message}\n`);
  process.exit(code);
}

/** The levels from which on the server tells of itself on its error output. */
const LEVELS = ["error", "warn", "info", "debug", "silent"] as const;
type LogLevel = (typeof LEVELS)[number];

interface Options {
  port: number;
  data: string;
  demo: boolean;
  level: LogLevel;
  words: string[];
}

function options(): Options {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: {
        port: { type: "string", default: "4180" },
        data: { type: "string", default: join(ROOT, "data") },
        demo: { type: "boolean", default: false },
        "log-level": { type: "string", default: "warn" },
      },
    });
    if (!/^\d{1,5}$/.test(values.port) || Number(values.port) > 65_535)
      giveUp(`the port “${values.port}” is not a number from 0 to 65535`, 2);
    const level = LEVELS.find((one) => one === values["log-level"]);
    if (level === undefined) giveUp(`“${values["log-level"]}” is no log level; there are ${LEVELS.join(", ")}`, 2);
    return { port: Number(values.port), data: resolve(values.data), demo: values.demo, level, words: positionals };
  } catch (error) {
    return giveUp(`${(error as Error).message.split(".")[0]}; use ${USE}`, 2);
  }
}

async function serve({ port, data, demo, level }: Options): Promise<void> {
  const log = pino({ name: "perceptum", level }, pino.destination(2));
  const database = await openDatabase(data);
  const readings = new ReadingsStore(database, (words) => log.warn(words));
  const frames = new FrameStore(database, (words) => log.warn(words));
  const projects = new ProjectStore(database, readings, frames);
  // The one that shall be opened first is added last.
  const demos = () =>
    ["bed-watch", "potting-shed", "pipe-rail-carrier", "route-cards", "glasshouse-round"].map(readDemo);
  if (!(await projects.addOnce(demos)) && demo) for (const made of demos()) await projects.add(made);

  const pool = new WorkPool(join(HERE, "work.worker.js"));
  const links = new LinkHub(join(HERE, "look.worker.js"), (link, { t, commands }) =>
    log.info({ link, t, commands }, "commanded"),
  );
  const server = createServer(
    { connectionsCheckingInterval: HEADERS_MS / 3 },
    makeApp({ projects, readings, frames, pool, links, folder: data }, join(ROOT, "web/dist"), log),
  );
  server.on("error", (error: NodeJS.ErrnoException) => {
    if (error.code === "EADDRINUSE")
      giveUp(`port ${port} is in use by another program. Choose another with --port, or end that program.`, 1);
    if (error.code === "EACCES") giveUp(`port ${port} may not be used. Choose another with --port.`, 1);
    giveUp(error.message, 1);
  });
  server.on("clientError", refuse);
  // Longer than a page rests between two requests, so that none of them meets a connection that is just being closed.
  server.keepAliveTimeout = 60_000;
  // A client that is slower with a few lines of headers only keeps a connection open.
  server.headersTimeout = HEADERS_MS;
  server.listen(port, HOST, () => {
    const address = server.address();
    const taken = typeof address === "object" && address !== null ? address.port : port;
    // Only now: where the port is taken, another server on this folder may be taking in bodies.
    removeLeftovers(data);
    process.stdout.write(`Perceptum is at http://${HOST}:${taken}\n`);
    void keepHouse(database, { projects, readings, frames }, data, log);
  });
  const hourly = setInterval(() => void keepHouse(database, { projects, readings, frames }, data, log), HOUR_MS);
  let ending = false;
  const end = () => {
    if (ending) return;
    ending = true;
    clearInterval(hourly);
    // What was asked for is still answered; who only keeps a connection open is not waited for.
    server.prependListener("request", (_, response) => response.setHeader("Connection", "close"));
    server.close(() => void Promise.all([database.close(), pool.end()]).then(() => process.exit(0)));
    links.end();
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), FINISH_MS).unref();
  };
  process.on("SIGINT", end);
  process.on("SIGTERM", end);
}

/** The day's backup, then what nothing names any more. Trouble with either stops nobody's work. */
async function keepHouse(
  database: Database,
  { projects, readings, frames }: { projects: ProjectStore; readings: ReadingsStore; frames: FrameStore },
  data: string,
  log: Logger,
): Promise<void> {
  const trying = async (what: string, work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      log.warn({ error: (error as Error).message }, `${what} failed`);
    }
  };
  await trying("the daily backup", () => backUp(database, data, new Date()));
  await trying("clearing away deleted projects", () => projects.clear(Date.now()));
  await trying("clearing away old frames", () => frames.clear(Date.now()));
  await trying("clearing away old readings", () => readings.clear(Date.now()));
}

/** Deletes bodies that were coming in when an earlier server ended. */
function removeLeftovers(data: string): void {
  for (const name of readdirSync(data)) if (name.startsWith("incoming-")) rmSync(join(data, name));
}

/** A request that is no HTTP is answered with problem details, too. */
function refuse(error: NodeJS.ErrnoException, socket: Socket): void {
  if (error.code === "ECONNRESET" || !socket.writable) return;
  const problem =
    error.code === "HPE_HEADER_OVERFLOW"
      ? new Problem(431, "Too long", "the request's headers are too long")
      : error.code === "ERR_HTTP_REQUEST_TIMEOUT"
        ? new Problem(408, "Too slow", "the request took too long to come in")
        : new Problem(400, "Bad request", "the request is not HTTP as this server reads it");
  const text = problemText(problem);
  socket.end(
    `HTTP/1.1 ${problem.status} ${problem.title}\r\nContent-Type: application/problem+json\r\n` +
      `Content-Length: ${Buffer.byteLength(text)}\r\nConnection: close\r\n\r\n${text}`,
  );
}

function readDemo(name: string) {
  const read = JOBS.readFile({ bytes: readFileSync(join(ROOT, `demo/${name}.perceptum.json`)) });
  if ("fault" in read) throw new Error(`the demo ${name} cannot be read: ${read.fault.place}: ${read.fault.message}`);
  return read;
}

function bringBack(data: string, day: string | undefined): void {
  if (day === undefined) {
    process.stdout.write(tellBackups(data));
    return;
  }
  const aside = restore(data, day, new Date());
  process.stdout.write(
    `The database is as it was on ${day}.${aside === undefined ? "" : ` What was there until now is in ${aside}.`}\n`,
  );
}

async function main(): Promise<void> {
  const given = options();
  const { data, words } = given;
  const [command, day, ...more] = words;
  if (command === undefined) return serve(given);
  if (command !== "restore" || more.length > 0) giveUp(`“${words.join(" ")}” is not known; use ${USE}`, 2);
  bringBack(data, day);
}

main().catch((error: unknown) => {
  giveUp((error as Error).message, error instanceof DatabaseError ? error.code : 1);
});
