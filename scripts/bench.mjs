import { ensureBuilt, ensureChromium, ensureInstalled, runs } from "./workspace.mjs";

ensureInstalled();
process.env.CHROMIUM = ensureChromium();
await ensureBuilt();
await ensureBuilt(["bench"]);
process.exitCode = runs("node", "bench/dist/main.js", ...process.argv.slice(2)) ? 0 : 1;
