import { readFileSync } from "node:fs";
import { startServer } from "./e2e/server";
import { startBrowser } from "./e2e/browser";
import { Screen } from "./e2e/Screen";
const [file, stage, out, ...rest] = process.argv.slice(2);
const server = await startServer();
const browser = await startBrowser();
try {
  const page = await browser.newPage();
  await page.evaluateOnNewDocument("globalThis.__name = (f) => f");
  await page.setViewport({ width: 1280, height: 800 });
  page.on("pageerror", (e) => console.log("PAGE ERROR", String(e)));
  page.on("console", (m) => { if (m.type() === "error" || m.type()==="warn") console.log("CONSOLE", m.text()); });
  const added = await fetch(`${server.url}/api/projects`, { method: "POST", headers: { "Content-Type": "application/json" }, body: readFileSync(`demo/${file}.perceptum.json`) });
  const { id } = (await added.json()) as { id: string };
  await page.goto(`${server.url}/p/${id}/${stage}`);
  const screen = await Screen.of(page);
  await new Promise((r) => setTimeout(r, 2500));
  for (const step of rest) { try {
    if (step.startsWith("js:")) await (new (Object.getPrototypeOf(async function(){}).constructor)("page","screen", step.slice(3)))(page, screen);
    else { const [verb, a, b] = step.split("|"); await (screen as any)[verb](...[a, b].filter((x) => x !== undefined)); }
    await new Promise((r) => setTimeout(r, 700));
  } catch (e) { console.log("STEP FAILED", step, String(e).slice(0,300)); } }
  console.log("shot");await page.screenshot({ path: `/tmp/keep/${out}.png` as never });
} finally { await browser.close(); await server.stop(); }
