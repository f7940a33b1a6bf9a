import { readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { glasshouseRound } from "@perceptum/core/demo";
import { numbered } from "@perceptum/core/names";
import { splitProject, writeProject } from "@perceptum/core/project";
import { run, traceJsonLines } from "@perceptum/core/world";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import { Screen } from "./Screen";
import { freshFolder } from "./server";
import { useSession } from "./session";

const session = useSession();
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

/** Opens a demo of this test's own. */
const open = (stage: string) => session.open(glasshouseRound(), stage);
const stage = (name: string) => screen.press("link", new RegExp(`^${name},`));
const saved = () => screen.see("status", "Project saved");

/** Runs at noon from the south door and goes to the end. */
async function runAtNoon(): Promise<void> {
  await screen.choose(/light/, "Noon sun");
  await screen.press("button", /^Run( again)?$/);
  await screen.press("button", "To the end");
}

describe("the stages", () => {
  it("Sense shows the reading at the playhead and the statistics of its stretch", async () => {
    await open("sense");
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

  it("Prove keeps a run as a tape that Sense and Decide use", async () => {
    await open("prove");
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
    await open("prove");
    await runAtNoon();
    const downloads = freshFolder();
    const devtools = await page.createCDPSession();
    await devtools.send("Browser.setDownloadBehavior", {
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

describe("what was done", () => {
  it("by a finding's button mends it, as one change", async () => {
    await open("decide");
    await screen.press("button", "Apply: Terracotta rim is taken for Coral tag");
    await screen.seeNo("listitem", "error: Terracotta rim is taken for Coral tag");
    await screen.press("button", /^Undo: .* mended$/);
    await screen.see("listitem", "error: Terracotta rim is taken for Coral tag");
  });

  it("in two windows at once is never lost: the second one chooses", async () => {
    await open("decide");
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
    await session.open(demo, "decide");
    await screen.enter("Coral tag, lower value bound", "61");
    await session.atServer("the new bound", ({ ruleSets }) => ruleSets[0].rules[0].any[0].all[2].from === 0.61);
    await saved();
  });
});
