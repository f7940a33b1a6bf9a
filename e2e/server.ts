import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** The repository: all that starts a server is run from there. */
export const ROOT = process.cwd();

/** A server that a test started: its address, its folder, and how to end it. */
export interface RunningServer {
  url: string;
  data: string;
  process: ChildProcess;
  /** Everything it wrote to standard error. */
  errors(): string;
  stop(): Promise<void>;
}

/** A folder of its own for one test. */
export function freshFolder(): string {
  return mkdtempSync(join(tmpdir(), "perceptum-test-"));
}

/** Starts the server by a command, in a folder of its own, at a free port; waits for the address that it prints. */
export async function startServer(
  options: { data?: string; command?: string[]; port?: number } = {},
): Promise<RunningServer> {
  const data = options.data ?? freshFolder();
  const [command, ...args] = options.command ?? [process.execPath, "server/dist/main.js"];
  const child = spawn(command, [...args, "--port", String(options.port ?? 0), "--data", data], {
    cwd: ROOT,
    stdio: ["ignore", "pipe", "pipe"],
    // A process group of its own, so that stopping npm also stops what it started.
    detached: true,
  });
  let errors = "";
  child.stderr.on("data", (chunk: Buffer) => {
    errors += chunk;
  });
  const url = await new Promise<string>((done, fail) => {
    let out = "";
    child.stdout.on("data", (chunk: Buffer) => {
      out += chunk;
      const address = /http:\/\/[\d.:]+/.exec(out);
      if (address) done(address[0]);
    });
    child.on("exit", (code) => fail(new Error(`the server ended with ${code}: ${errors}`)));
  });
  return {
    url,
    data,
    process: child,
    errors: () => errors,
    async stop() {
      const closed = new Promise((done) => child.once("close", done));
      if (child.exitCode === null && child.signalCode === null && child.pid !== undefined) {
        process.kill(-child.pid, "SIGTERM");
        await closed;
      }
      if (options.data === undefined) rmSync(data, { recursive: true, force: true });
    },
  };
}
