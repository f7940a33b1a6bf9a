import { ensureBuilt, ensureInstalled } from "./workspace.mjs";

ensureInstalled();
await ensureBuilt(process.argv[2] === "serve" ? ["cli", "web", "server"] : ["cli"]);
await import("../cli/dist/main.js");
