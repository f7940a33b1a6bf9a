import { ensureBuilt, ensureInstalled } from "./workspace.mjs";

ensureInstalled();
await ensureBuilt({ serve: ["cli", "web", "server"], restore: ["cli", "server"] }[process.argv[2]] ?? ["cli"]);
await import("../cli/dist/main.js");
