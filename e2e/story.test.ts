import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { glasshouseRound } from "@perceptum/core/demo";
import { numbered } from "@perceptum/core/names";
import { emptyProject, joinReadings, splitProject, writeProject } from "@perceptum/core/project";
import { run, traceJsonLines } from "@perceptum/core/world";
import type { Page } from "puppeteer-core";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { freePort } from "./freePort";
import { Screen } from "./Screen";
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

  it("by a finding's button mends it, as one change", async () => {
    await page.goto(server.url);
    await stage("Decide");
    await screen.press("button", "Apply: Terracotta rim is taken for Coral tag");
    await screen.seeNo("listitem", "error: Terracotta rim is taken for Coral tag");
    await screen.press("button", /^Undo: .* mended$/);
    await screen.see("listitem", "error: Terracotta rim is taken for Coral tag");
  });

  it("in two windows at once is never lost: the second one chooses", async () => {
    await page.goto(server.url);
    await stage("Decide");
    // A browser of its own, as on another desk.
    const elsewhere = await page.browser().createBrowserContext();
    const other = await elsewhere.newPage();
    await other.goto(page.url());
    const second = await Screen.of(other);
    await second.see("textbox", "Coral tag, lower value bound");
    await screen.enter("Coral tag, lower value bound", "50");
    await saved();
    await second.enter("Coral tag, lower value bound", "58");
    await second.see("dialog", "Changed in two places");
    await second.press("button", "Keep both");
    await second.see("textbox", "Project name");
    await second.until(
      "the copy's name",
      async () => (await second.valueOf("textbox", "Project name")) === "Glasshouse round (copy)",
    );
  });

  it("in a project with thousands of marks is saved too", async () => {
    const demo = glasshouseRound();
    const [tape] = demo.tapes;
    const [slate] = tape.marks;
    const more = Array.from({ length: 3000 }, (_, i) => ({ ...slate, from: i, to: i }));
    tape.marks = numbered("mark", [...tape.marks, ...more]);
    const added = await fetch(`${server.url}/api/projects`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(demo),
    });
    const { id } = (await added.json()) as { id: string };
    await page.goto(`${server.url}/p/${id}/decide`);
    await screen.enter("Coral tag, lower value bound", "61");
    await screen.until("the new bound at the server", async () => {
      const { ruleSets } = (await (await fetch(`${server.url}/api/projects/${id}`)).json()) as typeof demo;
      return ruleSets[0].rules[0].any[0].all[2].from === 0.61;
    });
    await saved();
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

describe("the stages", () => {
  it("Sense shows the reading at the playhead and the statistics of its stretch", async () => {
    await page.goto(server.url);
    await screen.press("button", /^Violet tag, Noon sun, .*at 24/);
    await screen.see("region", "Statistics of the marked stretch");
    const slider = await screen.find("slider", "Playhead");
    await slider.focus();
    await screen.until(
      "the playhead in the stretch",
      async () => Number(await screen.valueOf("slider", "Playhead")) > 24_000,
    );
    const before = Number(await screen.valueOf("slider", "Playhead"));
    await page.keyboard.press("ArrowRight");
    await screen.until(
      "one reading on",
      async () => Number(await screen.valueOf("slider", "Playhead")) === before + 20,
    );
    await page.keyboard.down("Shift");
    await page.keyboard.press("ArrowLeft");
    await page.keyboard.up("Shift");
    await screen.until(
      "ten readings back",
      async () => Number(await screen.valueOf("slider", "Playhead")) === before - 180,
    );
  });

  it("Act takes typed steps, says where a typo is, moves and removes them", async () => {
    await page.goto(server.url);
    await stage("Act");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    await screen.enter("Add a step", "lamp corel");
    await screen.see("alert", /^/);
    expect(await page.$eval('[role="alert"]', (e) => e.textContent)).toBe(
      "Column 6: there is no target “corel”; did you mean Coral tag?",
    );
    await screen.enter("Add a step", "tone C5 for 0.2 s");
    await screen.see("textbox", "Step 6");
    await screen.press("button", "Move step 6 up");
    await screen.until(
      "the tone to move",
      async () => (await screen.valueOf("textbox", "Step 5")) === "tone C5 for 0.2 s",
    );
    await screen.enter("Step 5", "tone D5 for 0.2 s");
    await screen.see("button", /^Coral tag arrives, in Patrol: .*tone D5/);
    await screen.press("button", "Remove step 5");
    await screen.seeNo("textbox", "Step 6");
    await screen.enter("Add a row", "chalk arrives");
    await screen.see("button", /^Chalk line arrives, in Patrol/);
    await screen.enter("Add a step", "log seen");
    await screen.seeNo("listitem", /^hint: Nothing answers Chalk line/);
  });

  it("Decide keeps a bound when what is typed is no number", async () => {
    await page.goto(server.url);
    await stage("Decide");
    await screen.enter("Coral tag, lower value bound", "forty");
    await screen.see("alert", /^/);
    expect(await page.$eval('[role="alert"]', (e) => e.textContent)).toBe(
      "“forty” is not a number; the lower value bound stays as it was.",
    );
    expect(await screen.valueOf("slider", "Coral tag, lower value bound")).toBe("42");
    await page.keyboard.press("Escape");
    await screen.seeNo("alert", /^/);
  });

  it("Prove keeps a run as a tape that Sense and Decide use", async () => {
    await page.goto(server.url);
    await runAtNoon();
    await screen.press("button", "Keep as a tape");
    await screen.see("button", "Kept as a tape");
    await saved();
    await page.reload();
    await stage("Sense");
    await screen.choose(/Tape/, "Run on Aisle, noon sun, seed 1");
    await screen.see("image", /^Readings of Run on Aisle, noon sun, seed 1/);
  });

  it("Ship saves the code, the project and the trace; the trace is the core's, byte for byte", async () => {
    await page.goto(server.url);
    await runAtNoon();
    const downloads = freshFolder();
    const session = await page.createCDPSession();
    await session.send("Browser.setDownloadBehavior", {
      behavior: "allow",
      downloadPath: downloads,
    });
    const download = async (button: string, name: string) => {
      await screen.press("button", button);
      return screen.until(name, async () => {
        try {
          return readFileSync(join(downloads, name), "utf8") || undefined;
        } catch {
          return undefined;
        }
      });
    };
    await stage("Ship");
    const { document } = splitProject(glasshouseRound());
    expect(await download("Save the last run as JSON lines", "run.jsonl")).toBe(
      traceJsonLines(run(document, { course: "aisle", start: "South door", light: "noon-sun", seed: 1 })),
    );
    expect(await download("Save the project file", "glasshouse-round.perceptum.json")).toBe(
      writeProject(glasshouseRound()),
    );
    expect(await download("Save file", "glasshouse-round.py")).toContain("def classify_belly(first, second, third):");
    rmSync(downloads, { recursive: true, force: true });
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
