import { ensureBuilt, ensureChromium, ensureInstalled, runs } from "./workspace.mjs";

ensureInstalled();
process.env.CHROMIUM = ensureChromium();
await ensureBuilt();
process.exitCode = runs("npx", "tsx", "bench/main.ts", ...process.argv.slice(2)) ? 0 : 1;
