import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import { readProject } from "@perceptum/core/project";
import { pino } from "pino";
import { makeApp } from "./app";
import { DatabaseError, openDatabase } from "./storage/database";
import { ProjectStore } from "./storage/ProjectStore";

const HOST = "127.0.0.1";
/** The built server lies in server/dist; from there to the repository's folder. */
const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), "../..");
const USE = "perceptum serve [--port 4180] [--data DIR] [--demo]";

/** Says what is wrong on the last line that the person sees, and ends with the code. */
function giveUp(message: string, code: number): never {
  process.stderr.write(`perceptum: ${message}\n`);
  process.exit(code);
}

function options(): { port: number; data: string; demo: boolean } {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: "string", default: "4180" },
        data: { type: "string", default: join(ROOT, "data") },
        demo: { type: "boolean", default: false },
      },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 0 || port > 65_535)
      giveUp(`the port “${values.port}” is not a number from 0 to 65535`, 2);
    return { port, data: resolve(values.data), demo: values.demo };
  } catch (error) {
    return giveUp(`${(error as Error).message.split(".")[0]}; use ${USE}`, 2);
  }
}

async function serve(): Promise<void> {
  const { port, data, demo } = options();
  const log = pino({ name: "perceptum", level: "warn" }, pino.destination(2));
  const source = await openDatabase(data);
  const store = new ProjectStore(source);
  // The one that shall be opened first is added last.
  if (demo || (await store.list()).length === 0)
    for (const name of ["route-cards", "glasshouse-round"]) await store.add(readDemo(name));

  const server = createServer(makeApp(store, join(ROOT, "web/dist"), log));
  server.on("error", (error: NodeJS.ErrnoException) => {
    if (error.code === "EADDRINUSE")
      giveUp(`port ${port} is in use by another program. Choose another with --port, or end that program.`, 1);
    if (error.code === "EACCES") giveUp(`port ${port} may not be used. Choose another with --port.`, 1);
    giveUp(error.message, 1);
  });
  server.listen(port, HOST, () => {
    const address = server.address();
    const taken = typeof address === "object" && address !== null ? address.port : port;
    process.stdout.write(`Perceptum is at http://${HOST}:${taken}\n`);
  });
  const end = () => {
    server.close(() => void source.destroy().then(() => process.exit(0)));
    server.closeAllConnections();
  };
  process.on("SIGINT", end);
  process.on("SIGTERM", end);
}

function readDemo(name: string) {
  const read = readProject(readFileSync(join(ROOT, `demo/${name}.perceptum.json`), "utf8"));
  if ("problem" in read)
    throw new Error(`the demo ${name} cannot be read: ${read.problem.place}: ${read.problem.message}`);
  return read.project;
}

serve().catch((error: unknown) => {
  giveUp(error instanceof DatabaseError ? error.message : `${(error as Error).message}`, 1);
});
