import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { startBrowser } from "./browser";
import { writeGuide } from "./jobs/writeGuide";
import { Screen } from "./Screen";
import { ROOT, startServer } from "./server";
import { waitingRobot } from "./waitingRobot";

/** Takes a fresh picture of each main view from the demo, for docs/screenshots, and writes the jobs of the guide. */
async function main(): Promise<void> {
  const folder = join(ROOT, "docs/screenshots");
  mkdirSync(folder, { recursive: true });
  const server = await startServer();
  const browser = await startBrowser();
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  const screen = await Screen.of(page);
  const shot = async (name: string) => {
    await page.waitForSelector('[data-judged="true"][data-advised="true"]');
    await page.waitForNetworkIdle();
    await page.mouse.move(640, 20);
    await page.screenshot({ path: join(folder, `${name}.png`) as `${string}.png` });
  };
  const stage = (name: string) => screen.press("link", new RegExp(`^${name},`));
  try {
    await page.goto(server.url);
    await screen.see("link", "Sense, ready");
    await screen.see("region", "Statistics of the marked stretch");
    await shot("sense");
    await screen.press("radio", "Bench");
    await screen.choose(/Under the sensor/, "Coral tag");
    await screen.choose(/Next to/, "Slate paving");
    await screen.until("the reading of an edge", async () =>
      /coral|unknown/i.test(await page.$eval('[aria-label="Under the sensor now"]', (e) => e.textContent ?? "")),
    );
    await shot("bench");
    await screen.press("radio", "Live");
    const robot = await waitingRobot("tcp://:4190");
    await screen.choose(/How the robot is linked/, "TCP, serial or MQTT");
    await screen.enter("Address of the robot", robot.address);
    await screen.press("button", "Open the link");
    await screen.press("button", "Let it act");
    await screen.until("Coral tag", async () =>
      /wait 2 s/.test(
        (await page.$('[aria-label="What happened"]')) === null
          ? ""
          : await page.$eval('[aria-label="What happened"]', (e) => e.textContent ?? ""),
      ),
    );
    await page.screenshot({ path: join(folder, "live.png") as `${string}.png` });
    await screen.press("button", /^Stop/);
    robot.end();
    await screen.see("button", "Open the link");
    await screen.press("radio", "Tape");
    await stage("Decide");
    await screen.see("listitem", "error: Terracotta rim is taken for Coral tag");
    await shot("decide");
    await stage("Act");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    await shot("act");
    await stage("Prove");
    await screen.choose(/light/, "Noon sun");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.press("button", /^fails: Never answers Terracotta rim/);
    await shot("prove");
    await screen.choose(/^(Aisle Course|Course Aisle)$/, "Chalk walk");
    await screen.press("radio", "Edit course");
    await screen.press("button", /^Teal tag, patch at/);
    await shot("course");
    await screen.press("radio", "Sweep");
    await screen.press("button", "Sweep");
    await screen.until("the sweep", async () =>
      /360 runs made in /.test(await page.$eval('[aria-label="How it holds"]', (e) => e.textContent ?? "")),
    );
    await shot("sweep");
    await screen.press("radio", "One run");
    await stage("Ship");
    await screen.press("button", "Prove this file");
    await screen.until("the proof", async () =>
      (await page.$eval('[aria-label="Code for the robot"]', (e) => e.textContent ?? "")).includes("Proved"),
    );
    await page.$eval("pre", (e) => {
      const lines = e.textContent.split("\n");
      const at = lines.findIndex((line) => line.startsWith("def behaviour"));
      if (at < 0) throw new Error("the code has no list of the behaviour");
      e.scrollTop = (e.scrollHeight * (at - 1)) / lines.length;
    });
    await shot("ship");
    await page.goto(`${server.url}/?list`);
    await screen.press("link", "Bed watch");
    await screen.press("button", "Dark theme");
    await stage("Decide");
    await screen.see("image", /^Frame/);
    await shot("decide-camera");
    await page.goto(`${server.url}/?list`);
    await page.evaluate(() => localStorage.clear());
    await page.reload();
    await screen.see("heading", "Projects");
    await screen.see("link", "Route cards");
    await page.screenshot({ path: join(folder, "projects.png") as `${string}.png` });
    await writeGuide(browser, server.url, join(ROOT, "docs"));
  } finally {
    await browser.close();
    await server.stop();
  }
}

void main();
