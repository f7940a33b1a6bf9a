import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TestProject } from "vitest/node";
import { startBrowser } from "./browser";
import { startServer } from "./server";

/** What all browser tests share. */
declare module "vitest" {
  interface ProvidedContext {
    /** The address of the server of all tests that do not test a server. */
    server: string;
    /** The browsers' addresses, one for each worker: a profile keeps the program's parts from one file of tests to the next. */
    browsers: string[];
    /** The folder in which workers note the browser that each has. */
    claims: string;
  }
}

/** Starts one server, and a browser for each worker; ends them after the last test. */
export default async function setup({ provide, config }: TestProject): Promise<() => Promise<void>> {
  const server = await startServer();
  const browsers = await Promise.all(Array.from({ length: Number(config.maxWorkers) }, () => startBrowser()));
  const claims = mkdtempSync(join(tmpdir(), "perceptum-browsers-"));
  provide("server", server.url);
  provide("claims", claims);
  provide(
    "browsers",
    browsers.map((browser) => browser.wsEndpoint()),
  );
  return async () => {
    await Promise.all([server.stop(), ...browsers.map((browser) => browser.close())]);
    rmSync(claims, { recursive: true });
  };
}
