import { ensureBuilt, ensureChromium, ensureInstalled, runs } from "./workspace.mjs";

ensureInstalled();
process.env.CHROMIUM = ensureChromium();
await ensureBuilt();
process.exitCode = runs("npx", "tsx", "e2e/shots.ts", ...process.argv.slice(2)) ? 0 : 1;
