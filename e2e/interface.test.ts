import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, joinReadings, type ProjectDocument } from "@perceptum/core/project";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { atServer } = session;
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

/** Opens a demo of this test's own. */
const open = (stage: string) => session.open(glasshouseRound(), stage);
const rules = (project: ProjectDocument) => project.ruleSets[0].rules;

describe("rules", () => {
  it("are moved as whole boxes, through the seam of the circle too, as one change", async () => {
    await open("decide");
    // Judgement and findings that come in may move the field under the hand.
    await session.upToDate();
    await screen.ready("slider", "Coral tag, lower hue bound");
    const plot = await (await screen.find("group", "Boxes of the rules, hue and saturation")).boundingBox();
    const low = await (await screen.find("slider", "Coral tag, lower hue bound")).boundingBox();
    if (plot === null || low === null) throw new Error("nothing to drag");
    const [x, y] = [low.x + 20, low.y + 30];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + plot.width / 12, y, { steps: 5 });
    await page.mouse.up();
    await screen.until("30° on", async () => (await screen.valueOf("slider", "Coral tag, lower hue bound")) === "20");
    expect(await screen.valueOf("slider", "Coral tag, upper hue bound")).toBe("46");
    await screen.press("button", /^Undo: box of Coral tag moved/);
    await screen.until("back", async () => (await screen.valueOf("slider", "Coral tag, lower hue bound")) === "350");
  });
});

describe("behaviour", () => {
  it("answers otherwise at once when a response is switched off, and says that the run is out of date", async () => {
    await open("prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("button", /^holds: Answers every Coral tag once/);
    await screen.press("link", /^Act,/);
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    await screen.press("button", "Switch off");
    await screen.press("link", /^Prove,/);
    await screen.until("the warning", () =>
      page.evaluate(() => document.body.textContent?.includes("was changed since this run")),
    );
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("button", /^fails: Answers every Coral tag once, 0\/2/);
  });
});

describe("a run", () => {
  it("plays, pauses, steps and goes to a check's moment and to a line of the log", async () => {
    await open("prove");
    await screen.choose(/Playing speed/, "× 1");
    await screen.enter("Seed", "4");
    await screen.choose(/start/, "Side gate");
    await screen.press("button", "Run");
    await screen.press("button", "Pause run");
    await screen.see("button", "Play run");
    // The last frame of the playing may still be under way: from a first step on all stands still.
    await screen.press("button", "Step");
    const first = await screen.restOf("Playhead");
    await screen.press("button", "Step");
    await screen.until("one reading on", async () => Number(await screen.valueOf("slider", "Playhead")) - first === 20);
    await screen.press("button", "To the end");
    await screen.press("button", /^holds: Answers every Coral tag once/);
    const at = Number(await screen.valueOf("slider", "Playhead"));
    await screen.press("radio", "Log");
    await screen.press("button", /^5\.\d\d s.*$/);
    await screen.until("the line's time", async () => Number(await screen.valueOf("slider", "Playhead")) !== at);
  });

  it("refuses a seed that is no whole number", async () => {
    await open("prove");
    await screen.enter("Seed", "-1");
    await screen.see("alert", /^/);
    expect(await page.$eval("[role=alert]", (e) => e.textContent)).toBe(
      "A seed is a whole number from 0 to 2147483647.",
    );
  });
});

describe("what comes next", () => {
  it("begins an empty project with the bench, a file or a demo", async () => {
    await session.open(joinReadings(emptyProject("A new one"), new Map()), "sense");
    await screen.see("button", "Readings from a file");
    await screen.press("button", "Record on the bench");
    await screen.press("button", "A demo to change");
    await screen.see("button", "Coral tag, 404 marked readings");
    expect(await page.evaluate(() => document.title)).toContain("to change");
    await screen.press("button", "Go to Decide");
    // The most serious finding stands above the panes, and is mended there.
    await screen.see("region", "Most serious finding");
    await screen.press("button", /^Apply: Terracotta rim/);
    await screen.see("region", "What comes next");
    await screen.press("button", "Go to Act");
    await screen.press("button", "Go to Prove");
    await screen.press("button", "Run");
    await screen.press("button", "Try a sweep");
    await screen.see("button", "Sweep");
  });

  it("opens the suggestion and the checks where there are none", async () => {
    const project = glasshouseRound();
    project.ruleSets = project.ruleSets.map((set) => ({ ...set, rules: [] }));
    project.courses[0].checks = [];
    await session.open(project, "decide");
    await screen.press("button", "Suggest rules");
    await screen.see("dialog", /./);
    await page.keyboard.press("Escape");
    await screen.press("link", /^Prove/);
    await screen.press("button", "Add the first check");
    await screen.see("textbox", "Add a check");
  });
});

describe("the page", () => {
  it("lists its keys, goes to stages, tries a rule alone, plays by the space bar and jumps between events", async () => {
    await open("sense");
    await (await screen.find("slider", "Playhead")).focus();
    await page.keyboard.press("?");
    await screen.see("dialog", "Keys");
    await page.keyboard.press("Escape");
    await screen.seeNo("dialog", /./);
    await page.keyboard.down("Alt");
    await page.keyboard.press("Digit2");
    await screen.see("region", "Colour field");
    await page.keyboard.up("Alt");
    await screen.see("button", /^Rule 2, Teal tag, (?!off)/);
    await page.keyboard.press("s");
    await screen.see("button", /^Rule 2, Teal tag, off/);
    await page.keyboard.press("s");
    await screen.see("button", /^Rule 2, Teal tag, (?!off)/);
    await page.keyboard.down("Alt");
    await page.keyboard.press("Digit1");
    await page.keyboard.up("Alt");
    await screen.see("region", "Reading");
    const before = Number(await screen.valueOf("slider", "Playhead"));
    await page.keyboard.press("]");
    await screen.until("a later event", async () => Number(await screen.valueOf("slider", "Playhead")) > before);
    await page.keyboard.press("[");
    await screen.until("an earlier event", async () => Number(await screen.valueOf("slider", "Playhead")) < before);
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press(" ");
    await screen.see("button", "Pause");
    await page.keyboard.press(" ");
    await screen.see("button", "Play");
  });

  it("lets letters, digits and signs be switched off as keys, and keeps to it", async () => {
    await open("sense");
    await screen.press("button", "Keyboard shortcuts");
    await screen.press("checkbox", /^Letters, digits and signs work as keys/);
    await page.keyboard.press("Escape");
    await page.reload();
    await (await screen.find("slider", "Playhead")).focus();
    await page.keyboard.press("r");
    await page.keyboard.press("?");
    // Keys that write nothing go on working; nothing else came of the two before.
    await page.keyboard.press("End");
    await screen.until("the end", async () => Number(await screen.valueOf("slider", "Playhead")) > 1000);
    expect(await screen.names("dialog")).toEqual([]);
    expect(await screen.names("button", "■ Stop and keep")).toEqual([]);
    await screen.press("button", "Keyboard shortcuts");
    await screen.press("checkbox", /^Letters, digits and signs work as keys/);
    await page.keyboard.press("Escape");
    await screen.seeNo("dialog", /./);
    await page.keyboard.press("?");
    await screen.see("dialog", "Keys");
  });

  it("keeps the keyboard's place where what has the focus is deleted", async () => {
    const focused = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? "");
    await open("decide");
    await screen.press("radio", "Nearest");
    await screen.press("button", "References from marks");
    await (await screen.find("button", "Delete reference 2, Coral tag")).focus();
    await page.keyboard.press("Enter");
    await screen.until("the next one", async () => (await focused()) === "Delete reference 2, Teal tag");
    // The last of a list leaves the focus in its pane.
    await screen.press("link", /^Prove/);
    await screen.press("radio", "Edit course");
    await screen.press("option", /^Coral tag, patch/);
    await (await screen.find("button", "Remove")).focus();
    await page.keyboard.press("Enter");
    await screen.seeNo("button", "Remove");
    expect(await page.evaluate(() => document.activeElement?.closest("[data-pane]")?.getAttribute("aria-label"))).toBe(
      "What is on the course",
    );
    await (await screen.find("button", /^Amber strip, patch/)).evaluate((e) => (e as SVGElement).focus());
    await page.keyboard.press("Delete");
    await screen.until("another part", async () => /, (patch|line|start)/.test(await focused()));
  });

  it("says of a button that cannot be pressed why, where one comes to it and where one points at it", async () => {
    await open("prove");
    const toTheEnd = await screen.find("button", "To the end");
    expect(await toTheEnd.evaluate((e) => e.getAttribute("aria-description"))).toBe("Make a run first.");
    await screen.tabTo("button", "To the end");
    await screen.see("tooltip", /./);
    await page.keyboard.press("Enter");
    await screen.see("button", "Run");
    await (await screen.find("textbox", "Seed")).focus();
    await screen.seeNo("tooltip", /./);
    await page.mouse.move(500, 400);
    await page.mouse.move(520, 400);
    await (await screen.find("button", "Undo")).hover();
    await screen.until(
      "why",
      async () =>
        (await page.$$eval("[role=tooltip]", (all) => all.map((e) => e.textContent).join())) ===
        "Nothing was changed since the project was opened.",
    );
    // Once there is a run it is a button like any other, and says nothing more.
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    expect(await (await screen.find("button", "To the end")).evaluate((e) => e.getAttribute("aria-description"))).toBe(
      null,
    );
  });

  it("goes from pane to pane by F6, and back", async () => {
    const pane = () =>
      page.evaluate(() => document.activeElement?.closest("[data-pane]")?.getAttribute("aria-label") ?? "");
    await open("decide");
    await screen.see("slider", "Coral tag, lower value bound");
    await session.upToDate();
    const panes: string[] = [];
    for (let i = 0; i < 4; i++) {
      await page.keyboard.press("F6");
      panes.push(await pane());
    }
    expect(new Set(panes).size).toBe(4);
    expect(panes[0]).toBe("Targets");
    await page.keyboard.down("Shift");
    await page.keyboard.press("F6");
    await page.keyboard.up("Shift");
    expect(await pane()).toBe(panes[2]);
  });

  it("keeps the chosen theme over a reload", async () => {
    await open("sense");
    await screen.press("button", "Dark theme");
    expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe("dark");
    await page.reload();
    await screen.see("button", "Light theme");
    expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe("dark");
  });

  it("draws the readings of the tape anew only where these change, not with every bound", async () => {
    await open("decide");
    await session.upToDate();
    await page.evaluate(() => {
      const { fillText } = CanvasRenderingContext2D.prototype;
      Object.assign(window, { drawn: [] as string[] });
      CanvasRenderingContext2D.prototype.fillText = function (text, ...at) {
        (window as unknown as { drawn: string[] }).drawn.push(text);
        fillText.call(this, text, ...at);
      };
    });
    const drawn = () => page.evaluate(() => (window as unknown as { drawn: string[] }).drawn.includes("reading"));
    await screen.enter("Coral tag, lower value bound", "61");
    await atServer("the bound", (p) => rules(p)[0].any[0].all[2].from === 0.61);
    await session.upToDate();
    expect(await drawn()).toBe(false);
    await screen.press("button", "Show less of the tape");
    await screen.until("the readings of a shorter part", drawn);
  });

  it("shows the same instant on the tape when a reading in the field is hovered", async () => {
    await open("decide");
    await screen.see("slider", "Coral tag, lower value bound");
    const plot = await (await screen.find("group", "Boxes of the rules, hue and saturation")).boundingBox();
    if (plot === null) throw new Error("no plot");
    const now = () => page.$eval('[aria-label="Under the sensor now"]', (e) => e.textContent);
    const before = await now();
    // Over the amber readings: hue 27°, saturation 93 %, with the seam at 300°.
    await page.mouse.move(plot.x + plot.width * (87 / 360), plot.y + plot.height * 0.07);
    await screen.until("another reading", async () => (await now()) !== before);
    expect(await now()).toContain("Amber strip");
  });
});
