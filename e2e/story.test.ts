import { rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, joinReadings, writeProject } from "@perceptum/core/project";
import type { Page } from "puppeteer-core";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { freePort } from "./freePort";
import type { Screen } from "./Screen";
import { freshFolder, type RunningServer, startServer } from "./server";
import { useSession } from "./session";

let server: RunningServer;
let page: Page;
let screen: Screen;
/** Each server stands at the same address: the browser has the program’s parts from the one before. */
let port: number;

/** How it is started; by node where nothing is said. */
let command: string[] | undefined;

beforeAll(async () => {
  port = await freePort();
});
// For each test a new database with the demos.
beforeEach(async () => {
  server = await startServer(command === undefined ? { port } : { port, command });
});
afterEach(() => server.stop());
const session = useSession({ server: () => server });
beforeEach(() => {
  ({ page, screen } = session);
});

const stage = (name: string) => screen.press("link", new RegExp(`^${name},`));
const saved = () => screen.see("status", "Project saved");

/** Runs at noon from the south door and goes to the end. */
async function runAtNoon(): Promise<void> {
  await stage("Prove");
  if ((await screen.names("button", /Noon sun light|light Noon sun/)).length === 0)
    await screen.choose(/light/, "Noon sun");
  await screen.press("button", /^Run( again)?$/);
  await screen.press("button", "To the end");
}

/** The most bytes that come before the first screen stands; the table of edits and the worker that gives findings come after it. */
const MOST_FIRST = 300_000;

describe("the first screen", () => {
  it("comes with little: what belongs to files and cameras comes when it is needed", async () => {
    await page.setCacheEnabled(false);
    await page.goto(server.url);
    await screen.see("link", "Sense, ready");
    await page.waitForFunction(() => performance.getEntriesByName("first screen").length > 0);
    const came = await page.evaluate(() => {
      const [{ startTime: stood }] = performance.getEntriesByName("first screen");
      return performance
        .getEntriesByType("resource")
        .filter(({ name, startTime }) => startTime < stood && !name.includes("/api/") && !name.includes("mentor"))
        .reduce((sum, entry) => sum + (entry as PerformanceResourceTiming).transferSize, 0);
    });
    expect(came).toBeGreaterThan(100_000);
    expect(came).toBeLessThan(MOST_FIRST);
  });
});

describe("the story: the coral rule also takes the terracotta, one bound is moved, and the failed check passes", () => {
  beforeAll(() => {
    command = ["npm", "start", "--silent", "--"];
  });
  afterAll(() => {
    command = undefined;
  });

  it("by pointer alone", async () => {
    await page.goto(server.url);
    await screen.see("link", "Sense, ready");
    expect(page.url()).toMatch(/\/p\/\w+\/sense$/);

    await runAtNoon();
    await screen.see("button", /^fails: Never answers Terracotta rim, 1 time/);
    await screen.see("status", "Checks that hold");

    await stage("Decide");
    await screen.see("listitem", "error: Terracotta rim is taken for Coral tag");
    const share = await page.$eval('[aria-label="Share judged rightly"]', (e) => e.textContent);
    // Drag the lower side of coral's box upwards in the plot of value, past the terracotta.
    const handle = await screen.find("slider", "Coral tag, lower value bound");
    const box = await handle.boundingBox();
    if (box === null) throw new Error("the handle has no place");
    const plot = await (await screen.find("group", "Boxes of the rules, hue and value")).boundingBox();
    await page.mouse.move(box.x + 4, box.y + 4);
    await page.mouse.down();
    await page.mouse.move(box.x + 4, box.y + 4 - 0.05 * (plot?.height ?? 0), { steps: 4 });
    // While the pointer moves, the tape is judged again: the share has risen already.
    await screen.until(
      "a better share while dragging",
      async () => (await page.$eval('[aria-label="Share judged rightly"]', (e) => e.textContent)) !== share,
    );
    await page.mouse.move(box.x + 4, box.y + 4 - 0.13 * (plot?.height ?? 0), { steps: 4 });
    await page.mouse.up();
    expect(Number(await screen.valueOf("slider", "Coral tag, lower value bound"))).toBe(55);
    await screen.seeNo("listitem", "error: Terracotta rim is taken for Coral tag");
    await saved();

    await runAtNoon();
    await screen.see("button", /^holds: Never answers Terracotta rim/);
    expect(await screen.names("button", /^fails:/)).toEqual([]);
    await screen.see("link", "Prove, ready");
  });

  it("by keyboard alone", async () => {
    await page.goto(server.url);
    await screen.see("link", "Sense, ready");
    const press = async (...keys: Parameters<typeof page.keyboard.press>[0][]) => {
      for (const key of keys) await page.keyboard.press(key);
    };
    const follow = async (role: string, name: string | RegExp) => {
      await screen.tabTo(role, name);
      await press("Enter");
    };
    await follow("link", /^Prove/);
    await screen.tabTo("button", /light/);
    await press("Enter", "ArrowDown", "Enter");
    await screen.seeNo("listbox", /./);
    await follow("button", "Run");
    await follow("button", "To the end");
    await screen.see("button", /^fails: Never answers Terracotta rim/);

    await follow("link", /^Decide/);
    await screen.tabTo("slider", "Coral tag, lower value bound");
    await page.keyboard.down("Shift");
    await press("ArrowUp");
    await page.keyboard.up("Shift");
    await press("ArrowUp", "ArrowUp", "ArrowUp");
    expect(Number(await screen.valueOf("slider", "Coral tag, lower value bound"))).toBe(55);
    await screen.seeNo("listitem", "error: Terracotta rim is taken for Coral tag");

    await follow("link", /^Prove/);
    await follow("button", "Run");
    await follow("button", "To the end");
    await screen.see("button", /^holds: Never answers Terracotta rim/);
    expect(await screen.names("button", /^fails:/)).toEqual([]);
  });
});

describe("what was done", () => {
  it("can be undone and done again, is saved, and a reload comes back to the same place", async () => {
    await page.goto(server.url);
    await stage("Decide");
    const field = () => screen.valueOf("textbox", "Coral tag, lower value bound");
    await screen.enter("Coral tag, lower value bound", "60");
    await screen.until(
      "the new bound",
      async () => (await screen.valueOf("slider", "Coral tag, lower value bound")) === "60",
    );
    await screen.press("button", /^Undo: value bound of Coral tag moved/);
    await screen.until("the old bound", async () => (await field()) === "42");
    await screen.press("button", /^Redo: value bound of Coral tag moved/);
    await screen.until("the new bound again", async () => (await field()) === "60");
    await saved();
    await page.reload();
    await screen.see("link", /^Decide/);
    expect(page.url()).toMatch(/\/decide$/);
    expect(await field()).toBe("60");
  });

  it("while the server is gone is kept and sent when it answers again", async () => {
    await page.goto(server.url);
    await stage("Decide");
    await screen.see("textbox", "Coral tag, lower value bound");
    session.excuse(/^Failed to load resource/);
    await page.setOfflineMode(true);
    await screen.enter("Coral tag, lower value bound", "57");
    await screen.see("status", "Project not saved");
    await page.setOfflineMode(false);
    await saved();
    await page.reload();
    expect(await screen.valueOf("textbox", "Coral tag, lower value bound")).toBe("57");
  });
});

describe("project files", () => {
  it("that are bad say why and where, and nothing is changed; good ones open", async () => {
    await page.goto(`${server.url}/?list`);
    await screen.see("heading", "Projects");
    const folder = freshFolder();
    const chooser = await page.waitForSelector('input[type="file"]');
    const offer = async (name: string, text: string) => {
      writeFileSync(join(folder, name), text);
      await (chooser as NonNullable<typeof chooser> & { uploadFile(path: string): Promise<void> }).uploadFile(
        join(folder, name),
      );
    };
    const whole = writeProject(glasshouseRound());
    for (const [name, text, message] of [
      ["empty.json", "", "empty.json, line 1: the file is empty. Nothing was changed."],
      ["cut.json", whole.slice(0, 700), "cut off"],
      ["later.json", whole.replace('"version": 1', '"version": 2'), "of version 2"],
      [
        "target.json",
        whole.replace('"target": "teal"', '"target": "azure"'),
        "ruleSets[0].rules[1].target: names the target “azure”",
      ],
      [
        "huge.json",
        " ".repeat(51 * 1024 * 1024),
        "huge.json, the whole file: the file has 51 MB beside its frames; at most 50 MB are read.",
      ],
    ]) {
      await offer(name, text);
      await screen.until(
        message,
        async () =>
          (await page.$eval('[role="alert"]', (e) => e.textContent).catch(() => ""))?.includes(message) ?? false,
      );
    }
    expect(await screen.names("link", /Glasshouse/)).toEqual(["Glasshouse round"]);
    await offer("good.json", whole.replace('"name": "Glasshouse round"', '"name": "From a file"'));
    await screen.until("the project", async () => (await screen.valueOf("textbox", "Project name")) === "From a file");
    rmSync(folder, { recursive: true, force: true });
  });

  it("are listed, begun anew and deleted", async () => {
    await page.goto(`${server.url}/?list`);
    await screen.press("button", "New project");
    await screen.see("textbox", "Project name");
    await screen.see("link", "Sense, empty");
    for (const name of ["Decide", "Act", "Prove", "Ship"]) await stage(name);
    await page.goto(`${server.url}/?list`);
    await screen.press("button", "Delete New project");
    await screen.press("button", "Delete");
    await screen.seeNo("link", "New project");
    await screen.see("link", "Glasshouse round");
  });

  it("are searched, copied, deleted together, and open where one left", async () => {
    const paints = async () => (await (await fetch(`${server.url}/api/projects`)).json()) as { paints: string[] }[];
    expect((await paints()).every((p) => p.paints.length >= 3)).toBe(true);
    await page.goto(`${server.url}/?list`);
    await screen.press("link", "Glasshouse round");
    await stage("Prove");
    await screen.choose(/^(Aisle Course|Course Aisle)$/, "Chalk walk");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await page.goto(`${server.url}/?list`);
    await screen.see("image", /^Sense ready, Decide has findings, Act ready, Prove /);
    await screen.press("button", "Copy Glasshouse round");
    await screen.see("link", "Glasshouse round, copy");
    const headers = { "Content-Type": "application/json" };
    for (let i = 1; i <= 8; i++) {
      const body = JSON.stringify(joinReadings(emptyProject(`Spare ${i}`), new Map()));
      await fetch(`${server.url}/api/projects`, { method: "POST", headers, body });
    }
    await page.reload();
    await screen.see("link", "Spare 8");
    await screen.enter("Search the projects", "cards");
    await screen.seeNo("link", /^Glasshouse/);
    await screen.see("link", "Route cards");
    await screen.enter("Search the projects", "spare");
    await screen.press("checkbox", "Choose Spare 1");
    await screen.press("checkbox", "Choose Spare 2");
    await screen.press("button", "Delete the chosen");
    await screen.see("dialog", "Delete 2 projects?");
    await screen.press("button", "Delete");
    await screen.seeNo("link", "Spare 2");
    await page.reload();
    await screen.press("link", "Glasshouse round");
    await screen.see("link", /^Prove/);
    await screen.see("button", /^(Chalk walk Course|Course Chalk walk)$/);
    expect(new URL(page.url()).pathname).toMatch(/\/prove$/);
  });

  it("that are gone say so", async () => {
    session.excuse(/^Failed to load resource.*404/);
    await page.goto(`${server.url}/p/nothing/decide`);
    await screen.see("heading", "This project cannot be opened");
    await screen.see("link", "Go to the projects");
  });
});
