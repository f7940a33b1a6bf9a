import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed } from "@perceptum/core/demo";
import { courseAs, ROBOTS } from "@perceptum/core/world";
import type { Page } from "puppeteer-core";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

/** Controls that lie over one another, and panes whose content is wider than they are, on the page as it is now. */
const faults = () =>
  page.evaluate(() => {
    const said = (e: Element) =>
      e.getAttribute("aria-label") || e.textContent?.trim().slice(0, 40) || e.tagName.toLowerCase();
    /** The part of an element that its scrolling ancestors let be seen. */
    const seen = (e: Element) => {
      let { x, y, right, bottom } = e.getBoundingClientRect();
      for (let up = e.parentElement; up !== null; up = up.parentElement) {
        if (getComputedStyle(up).overflow === "visible") continue;
        const room = up.getBoundingClientRect();
        [x, y] = [Math.max(x, room.x), Math.max(y, room.y)];
        [right, bottom] = [Math.min(right, room.right), Math.min(bottom, room.bottom)];
      }
      return { x, y, right, bottom };
    };
    const shown = [...document.querySelectorAll<HTMLElement>("button, input, textarea, a[href]")]
      .filter((e) => {
        const box = e.getBoundingClientRect();
        return e.closest("svg") === null && box.width > 0 && getComputedStyle(e).opacity !== "0";
      })
      .map((e) => ({ e, ...seen(e) }));
    const over: string[] = [];
    for (const [i, p] of shown.entries())
      for (const q of shown.slice(i + 1)) {
        const wide = Math.min(p.right, q.right) - Math.max(p.x, q.x);
        const high = Math.min(p.bottom, q.bottom) - Math.max(p.y, q.y);
        if (wide <= 2 || high <= 2 || p.e.contains(q.e) || q.e.contains(p.e)) continue;
        over.push(`${said(p.e)} and ${said(q.e)} overlap`);
      }
    const wide = [...document.querySelectorAll<HTMLElement>("[data-pane]")]
      .filter((pane) => pane.scrollWidth > pane.clientWidth + 1)
      .map((pane) => `${said(pane)} is ${pane.scrollWidth} wide in ${pane.clientWidth}`);
    const beyond = [...document.querySelectorAll("[data-pane]")]
      .filter((pane) => pane.getBoundingClientRect().right > innerWidth + 1)
      .map((pane) => `${said(pane)} reaches beyond the window`);
    return [...over, ...wide, ...beyond];
  });

const stage = (name: string) => screen.press("link", new RegExp(`^${name},`));

/** Goes through the views of every stage, and has each looked at once it is judged and drawn. */
async function tour(look: (view: string) => Promise<void>): Promise<void> {
  const see = async (view: string) => {
    await session.upToDate();
    await page.evaluate(() => new Promise(requestAnimationFrame));
    await look(view);
  };
  await screen.see("region", "Statistics of the marked stretch");
  await see("Sense, tape");
  await screen.press("radio", "Bench");
  await screen.see("region", "Stand");
  await see("Sense, bench");
  await stage("Decide");
  await screen.see("slider", "Coral tag, lower value bound");
  await see("Decide, rules");
  await screen.press("radio", "Nearest");
  await screen.press("button", "References from marks");
  await screen.see("list", "References");
  await see("Decide, nearest");
  await screen.press("radio", "Score");
  await see("Decide, score");
  await screen.press("radio", "Why");
  await see("Decide, why");
  await stage("Act");
  await screen.press("button", /^Coral tag arrives, in Patrol/);
  await see("Act");
  await stage("Prove");
  await screen.press("button", "Run");
  await screen.press("button", "To the end");
  await see("Prove, run");
  await screen.press("radio", "Edit course");
  await screen.press("option", /^Coral tag, patch/);
  await see("Prove, course");
  await screen.press("radio", "Robot");
  await screen.see("image", /from above$/);
  await see("Prove, robot");
  await screen.press("radio", "Sweep");
  await see("Prove, sweep");
  await stage("Ship");
  await screen.see("region", "Code for the robot");
  await see("Ship");
}

const WINDOWS = [
  [1024, 768],
  [1280, 800],
  [1920, 1080],
] as const;

/** A window at 200 % and at 400 %, as WCAG 1.4.10 has it. */
const SMALL = [
  [640, 400],
  [320, 256],
] as const;

/** Makes the window of each of these sizes in turn, and back; the page is looked at once it is drawn. */
async function atEach(
  sizes: readonly (readonly [number, number])[],
  look: () => Promise<unknown[]>,
): Promise<Record<string, unknown[]>> {
  const found: Record<string, unknown[]> = {};
  const before = page.viewport();
  for (const [width, height] of sizes) {
    await page.setViewport({ width, height });
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
    let faults: unknown[] = [];
    const isRight = async () => {
      faults = await look();
      return faults.length === 0;
    };
    // Drawings take the size of their panes a moment after these have it.
    await screen.until("the page to fit", isRight, 2000).catch(() => undefined);
    if (faults.length > 0) found[`${width} × ${height}`] = faults;
  }
  await page.setViewport(before);
  return found;
}

describe("no control lies over another and no pane is wider than its room, in windows of three sizes", () => {
  /** The faults of each view. */
  let found: Record<string, unknown>;
  const look = async (view: string) => {
    found[view] = await atEach(WINDOWS, faults);
  };
  const nothing = (views: Record<string, unknown>) => Object.fromEntries(Object.keys(views).map((view) => [view, {}]));
  beforeEach(() => {
    found = {};
  });
  afterEach(() => expect(found).toEqual(nothing(found)));

  it("at any stage, nor is anything out of reach in small windows, where panes lie below one another", async () => {
    // All is pressed in the smallest.
    const [[width, height]] = SMALL.slice(-1);
    await page.setViewport({ width, height });
    await session.open(glasshouseRound(), "sense");
    const small = async () => [
      ...(await page.evaluate(() => {
        const drawn = [...document.querySelectorAll("main canvas, main svg[role=img]")].filter((e) => {
          const { width, height } = e.getBoundingClientRect();
          return width < 80 || height < 28;
        });
        const { scrollWidth } = document.documentElement;
        return [...(scrollWidth > innerWidth ? [`${scrollWidth} px wide`] : []), ...drawn.map((e) => e.ariaLabel)];
      })),
      ...(await faults()).filter((fault) => fault.includes("overlap") || fault.includes("beyond")),
    ];
    await tour(async (view) => {
      await look(view);
      found[`${view}, small`] = await atEach(SMALL, small);
    });
    await screen.press("link", "Perceptum, all projects");
    await screen.see("button", "New project");
    found.List = await atEach(SMALL, () =>
      page.evaluate(() =>
        document.documentElement.scrollWidth > innerWidth ? [document.documentElement.scrollWidth] : [],
      ),
    );
  });

  it.each([
    ["a carrier", pipeRailCarrier],
    ["a sorter", pottingShed],
  ])("nor for %s: in a run, on its course, on its sheet", async (_, demo) => {
    await session.open(demo(), "prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.press("radio", "Things");
    await look("run");
    await screen.press("radio", "Edit course");
    await screen.see("region", /^(The rail|The belt)$/);
    await look("course");
    await screen.press("radio", "Robot");
    await screen.see("checkbox", /mounted reversed$/);
    await look("robot");
  });

  it("nor for a camera: its frame and boxes, its field, its run, its form", async () => {
    await session.open(bedWatch(packFrame), "sense");
    await screen.press("button", "Box in the middle");
    await screen.press("button", "Coral tag");
    await screen.see("group", "The chosen box");
    await look("frame");
    await stage("Decide");
    await screen.see("image", /^Frame/);
    await look("field");
    await stage("Prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("image", /^Frame/);
    await look("run");
  });

  it("nor for a robot in the hand with many parts", async () => {
    const project = glasshouseRound();
    project.robot = {
      ...ROBOTS.get("hand").fresh(project.robot),
      lamps: ["ready-to-go", "halt-at-once", "lamp-three"],
      buttons: ["start-key", "stop-key"],
    };
    project.courses = project.courses.map((course) => courseAs(course, "hand").course);
    await session.open(project, "prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await look("run");
  });
});
