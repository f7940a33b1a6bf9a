import { spawn } from "node:child_process";
import { ensureBuilt, ensureInstalled, ROOT } from "./workspace.mjs";

/* The pages are served by Vite and change as their sources do; the server is built once and answers behind them. */
ensureInstalled();
await ensureBuilt(["server"]);
const children = [
  spawn(process.execPath, ["server/dist/main.js", "--port", "4180"], { cwd: ROOT, stdio: "inherit" }),
  spawn("npx", ["vite", "web"], { cwd: ROOT, stdio: "inherit" }),
];
for (const child of children) {
  child.on("exit", (code) => {
    for (const other of children) other.kill();
    process.exitCode = code ?? 0;
  });
}
