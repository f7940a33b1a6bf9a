import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed } from "@perceptum/core/demo";
import { courseAs, ROBOTS } from "@perceptum/core/world";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
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
    const shown = [...document.querySelectorAll<HTMLElement>("button, input, textarea, a[href]")].filter((e) => {
      const box = e.getBoundingClientRect();
      return e.closest("svg") === null && box.width > 0 && getComputedStyle(e).opacity !== "0";
    });
    const over: string[] = [];
    for (const [i, a] of shown.entries())
      for (const b of shown.slice(i + 1)) {
        if (a.contains(b) || b.contains(a)) continue;
        const [p, q] = [seen(a), seen(b)];
        const wide = Math.min(p.right, q.right) - Math.max(p.x, q.x);
        const high = Math.min(p.bottom, q.bottom) - Math.max(p.y, q.y);
        if (wide > 2 && high > 2) over.push(`${said(a)} and ${said(b)} overlap`);
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
    await page.waitForSelector('[data-judged="true"][data-advised="true"]');
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

describe.each([
  [1024, 768],
  [1280, 800],
  [1920, 1080],
])("at %i × %i", (width, height) => {
  it("no control lies over another and no pane is wider than its room, at any stage", async () => {
    await page.setViewport({ width, height });
    await session.open(glasshouseRound(), "sense");
    const found: Record<string, string[]> = {};
    await tour(async (view) => {
      found[view] = await faults();
    });
    expect(Object.entries(found).filter(([, all]) => all.length > 0)).toEqual([]);
  });

  it.each([
    ["a carrier", pipeRailCarrier],
    ["a sorter", pottingShed],
  ])("nor for %s: in a run, on its course, on its sheet", async (_, demo) => {
    await page.setViewport({ width, height });
    await session.open(demo(), "prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.press("radio", "Things");
    const found = await faults();
    await screen.press("radio", "Edit course");
    await screen.see("region", /^(The rail|The belt)$/);
    found.push(...(await faults()));
    await screen.press("radio", "Robot");
    await screen.see("checkbox", /mounted reversed$/);
    expect([...found, ...(await faults())]).toEqual([]);
  });

  it("nor for a camera: its frame and boxes, its field, its run, its form", async () => {
    await page.setViewport({ width, height });
    await session.open(bedWatch(packFrame), "sense");
    await screen.press("button", "Box in the middle");
    await screen.press("button", "Coral tag");
    await screen.see("group", "The chosen box");
    const found = await faults();
    await stage("Decide");
    await screen.see("image", /^Frame/);
    found.push(...(await faults()));
    await stage("Prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("image", /^Frame/);
    expect([...found, ...(await faults())]).toEqual([]);
  });

  it("nor for a robot in the hand with many parts", async () => {
    await page.setViewport({ width, height });
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
    expect(await faults()).toEqual([]);
  });
});

/** A window at 200 % and at 400 %, as WCAG 1.4.10 has it. */
describe.each([
  [640, 400],
  [320, 256],
])("at %i × %i panes lie below one another", (width, height) => {
  it("and the page scrolls one way only, at any stage and in the list", async () => {
    await page.setViewport({ width, height });
    await session.open(glasshouseRound(), "sense");
    const found: Record<string, unknown[]> = {};
    await tour(async (view) => {
      found[view] = await page.evaluate(() => {
        const drawn = [...document.querySelectorAll("main canvas, main svg[role=img]")].filter((e) => {
          const { width, height } = e.getBoundingClientRect();
          return width < 80 || height < 28;
        });
        const { scrollWidth } = document.documentElement;
        return [...(scrollWidth > innerWidth ? [`${scrollWidth} px wide`] : []), ...drawn.map((e) => e.ariaLabel)];
      });
      found[view].push(...(await faults()).filter((fault) => fault.includes("overlap") || fault.includes("beyond")));
    });
    await screen.press("link", "Perceptum, all projects");
    await screen.see("button", "New project");
    found.List = await page.evaluate(() =>
      document.documentElement.scrollWidth > innerWidth ? [document.documentElement.scrollWidth] : [],
    );
    expect(Object.entries(found).filter(([, all]) => all.length > 0)).toEqual([]);
  });
});
