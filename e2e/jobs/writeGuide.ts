import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Browser } from "puppeteer-core";
import { Screen } from "../Screen";
import { JOBS } from ".";
import { HANDS } from "./Hands";
import { deskOf, pageOf } from "./Job";
import { readingsFile } from "./readingsFile";

/** Does every job of the guide and writes its page and picture below a folder of docs. */
export async function writeGuide(browser: Browser, url: string, docs: string): Promise<void> {
  mkdirSync(join(docs, "jobs"), { recursive: true });
  writeFileSync(join(docs, "jobs/readings.csv"), readingsFile());
  for (const job of JOBS) {
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800, hasTouch: job.by === "touch" });
    // tsx names functions by a helper of its own, which functions that run in the page do not find there.
    await page.evaluateOnNewDocument("globalThis.__name = (named) => named");
    const screen = await Screen.of(page);
    await page.goto(`${url}/?list`);
    await screen.see("button", "New project");
    const { desk, told } = deskOf(page, screen, HANDS[job.by](screen), async () => {
      await page.evaluate(() => document.fonts.ready);
      await page.screenshot({ path: join(docs, `screenshots/job-${job.file}.png`) as `${string}.png` });
    });
    await job.perform(desk);
    writeFileSync(join(docs, `jobs/${job.file}.md`), pageOf(job, told));
    await page.close();
  }
}
