import { ensureBuilt, ensureInstalled } from "./workspace.mjs";

ensureInstalled();
await ensureBuilt();
