import { startServer } from "./e2e/server";
import { startBrowser } from "./e2e/browser";
import { Screen } from "./e2e/Screen";
import { HANDS } from "./e2e/jobs/Hands";
import { deskOf } from "./e2e/jobs/Job";
const [file, name, by, out] = process.argv.slice(2);
const job = (await import(`./e2e/jobs/${file}`))[name];
const server = await startServer();
const browser = await startBrowser(process.env.ARGS ? process.env.ARGS.split(" ") : []);
const page = await browser.newPage();
try {
  await page.evaluateOnNewDocument("globalThis.__name = (f) => f");
  await page.setViewport({ width: 1280, height: 800 });
  page.on("pageerror", (e) => console.log("PAGE ERROR", String(e)));
  page.on("console", (m) => { if (m.type() === "error" || m.type()==="warn") console.log("CONSOLE", m.text()); });
  const screen = await Screen.of(page);
  await page.goto(`${server.url}/?list`);
  await screen.see("button", "New project");
  const { desk, told } = deskOf(page, screen, (HANDS as any)[by](screen));
  try { await job.perform(desk); console.log("DONE"); } catch (e) { console.log("FAILED after step", told.length, String(e).slice(0, 400)); }
  await page.screenshot({ path: `/tmp/keep/${out}.png` as never });
} finally { await browser.close(); await server.stop(); }
