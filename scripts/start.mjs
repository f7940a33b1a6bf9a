import { ensureBuilt, ensureInstalled } from "./workspace.mjs";

ensureInstalled();
await ensureBuilt(["web", "server"]);
await import("../server/dist/main.js");
