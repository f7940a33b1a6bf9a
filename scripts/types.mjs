import { spawn } from "node:child_process";
import { mkdirSync } from "node:fs";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { ROOT } from "./workspace.mjs";

/** Core writes its types down, and all others go by them: nobody reads core a second time. */
const FIRST = "core";
/** Parts that are read by themselves, with the types of where they run: node, page, worker; the longest come first. */
const OTHERS = ["tsconfig.tools.json", "web", "web/tsconfig.model.json", "tsconfig.json"];

/** Reads one; what did not change since it was read last is not read again. */
function read(project) {
  const info = join(ROOT, ".cache/types", `${project.replaceAll(/\W/g, "-")}.json`);
  const child = spawn(
    join(ROOT, "node_modules/.bin/tsc"),
    ["-p", project, ...(project === FIRST ? [] : ["--noEmit", "--incremental", "--tsBuildInfoFile", info])],
    { cwd: ROOT, stdio: ["ignore", "inherit", "inherit"] },
  );
  return new Promise((done) => child.on("close", (code) => done(code === 0)));
}

mkdirSync(join(ROOT, ".cache/types"), { recursive: true });
let holds = await read(FIRST);
const waiting = [...OTHERS];
async function work() {
  for (let project = waiting.shift(); project !== undefined; project = waiting.shift())
    holds = (await read(project)) && holds;
}
await Promise.all(Array.from({ length: Math.min(4, availableParallelism()) }, work));
process.exitCode = holds ? 0 : 1;
