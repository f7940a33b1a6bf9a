import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { bedWatch, glasshouseRound, pipeRailCarrier, pottingShed } from "@perceptum/core/demo";
import { numbered } from "@perceptum/core/names";
import type { Project } from "@perceptum/core/project";
import { courseAs, ROBOTS } from "@perceptum/core/world";
import { beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import type { Name, Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
let screen: Screen;
beforeEach(() => {
  ({ screen } = session);
});

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
const TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];
/** Controls hold the words that they show in their names (2.5.3): who speaks to the page can press them. */
const MORE = { "label-content-name-mismatch": { enabled: true } };

/** What of WCAG 2.2 AA the page breaks as it now stands, in the light and in the dark theme, each with the places. */
async function violations(): Promise<string[]> {
  await session.page.evaluate(AXE);
  const options = JSON.stringify({ runOnly: TAGS, rules: MORE });
  const found: string[] = [];
  for (const theme of ["light", "dark"]) {
    const broken = (await session.page.evaluate(
      `document.documentElement.dataset.theme = ${JSON.stringify(theme)};
       axe.run(document, ${options}).then((r) => r.violations.map((v) => v.id + ": " + v.nodes.map((n) => n.html.slice(0, 160)).join(" | ")))`,
    )) as string[];
    found.push(...broken.map((text) => `${theme}, ${text}`));
  }
  return found;
}

const judged = () => session.page.waitForSelector('[data-judged="true"][data-advised="true"]');

describe("nothing of WCAG 2.2 AA is broken, in either theme", () => {
  it.each<[stage: string, view: string, ...presses: [role: string, name: Name][]]>([
    ["sense", "tape"],
    ["sense", "bench", ["radio", "Bench"]],
    [
      "sense",
      "live",
      ["radio", "Live"],
      ["button", /How the robot is linked/],
      ["option", "POST from this computer"],
      ["button", "Open the link"],
    ],
    ["sense", "figures", ["radio", "Figures"]],
    ["decide", "rules"],
    ["decide", "nearest", ["radio", "Nearest"], ["button", "References from marks"]],
    ["decide", "score", ["radio", "Score"]],
    ["decide", "why", ["radio", "Why"]],
    ["act", "grid", ["button", /^Coral tag arrives, in Patrol/]],
    ["act", "diagram", ["radio", "Diagram"]],
    ["act", "words", ["radio", "In words"]],
    ["act", "rehearsal", ["radio", "Rehearsal"]],
    ["prove", "run", ["button", "Run"], ["button", "To the end"]],
    ["prove", "why", ["button", "Run"], ["button", "To the end"], ["radio", "Why"]],
    ["prove", "things", ["button", "Run"], ["button", "To the end"], ["radio", "Things"]],
    ["prove", "log", ["button", "Run"], ["button", "To the end"], ["radio", "Log"]],
    ["prove", "course", ["radio", "Edit course"], ["option", /^Coral tag, patch/], ["button", "Edit checks"]],
    ["prove", "robot", ["radio", "Robot"]],
    ["prove", "sweep", ["radio", "Sweep"]],
    ["ship", "code", ["button", "Prove this file"]],
  ])("at %s: %s", async (stage, _, ...presses) => {
    await session.open(glasshouseRound(), stage);
    await judged();
    for (const [role, name] of presses) await screen.press(role, name);
    await judged();
    expect(await violations()).toEqual([]);
  });

  it.each<[stage: string, sheet: Name, ...presses: [role: string, name: Name][]]>([
    ["sense", "New target", ["button", "Add target"]],
    ["sense", "Coral tag", ["button", "Change Coral tag"]],
    ["sense", "Belly sensor", ["button", "Change sensor"]],
    ["sense", "New sensor", ["button", "Add sensor"]],
    ["sense", /White and dark/, ["button", "White and dark"]],
    ["sense", "Lights", ["radio", "Bench"], ["button", "Lights"]],
    ["sense", /Height sweep/, ["radio", "Bench"], ["button", "Height sweep"]],
    ["sense", /Paste/, ["button", "Paste …"]],
    ["decide", /Suggested rules/, ["button", "Suggest rules"]],
    ["decide", /./, ["button", "Teach from this stretch"]],
    ["decide", "Keys", ["button", "Keyboard shortcuts"]],
    ["act", "Copy the response", ["button", /^Coral tag arrives, in Patrol/], ["button", "Copy to …"]],
    ["prove", /Change the robot/, ["radio", "Robot"], ["radio", "hand with cards"]],
  ])("in a sheet of %s: %s", async (stage, sheet, ...presses) => {
    await session.open(glasshouseRound(), stage);
    await judged();
    for (const [role, name] of presses) await screen.press(role, name);
    await screen.see("dialog", sheet);
    expect(await violations()).toEqual([]);
  });

  it("where a robot is held in the hand: a run, and its cards", async () => {
    const project = glasshouseRound();
    project.robot = { ...ROBOTS.get("hand").fresh(project.robot), lamps: ["go"], buttons: ["start-key"] };
    const card = { target: project.targets[0].id, atMs: 500, forMs: 1000 };
    const press = { button: "start-key", atMs: 200, forMs: 300 };
    project.courses = [
      {
        ...courseAs(project.courses[0], "hand").course,
        cards: numbered("card", [card]),
        presses: numbered("press", [press]),
      },
    ];
    await session.open(project, "prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    expect(await violations()).toEqual([]);
    await screen.press("radio", "Edit course");
    await screen.press("option", /^Coral tag, card/);
    expect(await violations()).toEqual([]);
  });

  it.each<[machine: string, demo: () => Project, part: Name]>([
    ["a carrier on a rail", pipeRailCarrier, /^Plate 2: /],
    ["a sorter with a belt", pottingShed, /^Piece 2: /],
  ])("for %s: a run, its things, its course and its robot", async (_, demo, part) => {
    await session.open(demo(), "prove");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.press("radio", "Things");
    const found = await violations();
    await screen.press("radio", "Edit course");
    await screen.see("button", part);
    found.push(...(await violations()));
    await screen.press("radio", "Robot");
    expect([...found, ...(await violations())]).toEqual([]);
  });

  it("for a camera: its frame and boxes, its form, the computer's own, its field and score, its run", async () => {
    await session.open(bedWatch(packFrame), "sense");
    await screen.press("button", "Box in the middle");
    await screen.see("group", "This is");
    const found = await violations();
    await screen.press("button", "Coral tag");
    await screen.see("group", "The chosen box");
    found.push(...(await violations()));
    await screen.press("button", "Change sensor");
    await screen.see("dialog", "Bow camera");
    found.push(...(await violations()));
    await screen.press("button", "Cancel");
    await screen.press("radio", "Camera");
    await screen.see("button", "Start the camera");
    found.push(...(await violations()));
    await screen.press("link", /^Decide,/);
    await screen.press("radio", "Score");
    await screen.see("table", "By frame");
    found.push(...(await violations()));
    await screen.press("link", /^Prove,/);
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("image", /^Frame/);
    expect([...found, ...(await violations())]).toEqual([]);
  });

  it("in the list of projects, and where one is deleted", async () => {
    await session.page.goto(`${session.server.url}/?list`);
    await screen.see("heading", "Projects");
    expect(await violations()).toEqual([]);
    await screen.press("button", /^Delete /);
    await screen.see("dialog", /./);
    expect(await violations()).toEqual([]);
  });
});
