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

/** Only what is broken is gathered; nothing is fetched for it. */
const BROKEN = { resultTypes: ["violations"], preload: false };
const ASKED = {
  light: { runOnly: TAGS, rules: MORE, ...BROKEN },
  dark: { runOnly: ["color-contrast"], ...BROKEN },
};

/**
 * What of WCAG 2.2 AA the page breaks as it now stands, or a part of it, each with the places. The dark theme is asked
 * only for its colours: all else is the same.
 */
async function violations(within = "body"): Promise<string[]> {
  return (await session.page.evaluate(
    `(async () => {
      const asked = ${JSON.stringify(ASKED)};
      const context = document.querySelector(${JSON.stringify(within)});
      const found = [];
      for (const theme of ["light", "dark"]) {
        document.documentElement.dataset.theme = theme;
        const { violations } = await axe.run(${within === "body" ? "document" : "context"}, asked[theme]);
        for (const { id, nodes } of violations)
          found.push(theme + ", " + id + ": " + nodes.map((n) => n.html.slice(0, 160)).join(" | "));
      }
      return found;
    })()`,
  )) as string[];
}

/** Opens a stage with what looks at it, and holds that it breaks nothing. */
async function open(project: Project, stage: string): Promise<void> {
  await session.open(project, stage);
  await session.upToDate();
  await session.page.evaluate(AXE);
  expect(await violations()).toEqual([]);
}

/** The roles that tests look for. */
const ROLES = [
  ...["alert", "article", "button", "checkbox", "dialog", "group", "heading", "image", "link", "list", "listbox"],
  ...[
    "listitem",
    "option",
    "progressbar",
    "radio",
    "region",
    "slider",
    "status",
    "table",
    "textbox",
    "timer",
    "tooltip",
  ],
];

/** Lists the roles and names that tests go by and that are not those of the browser's own accessibility tree. */
async function differences(): Promise<string[]> {
  const devtools = await session.page.createCDPSession();
  const { nodes } = await devtools.send("Accessibility.getFullAXTree");
  await devtools.detach();
  const told = new Map(ROLES.map((role) => [role, [] as string[]]));
  for (const { ignored, role, name } of nodes) {
    const word = role?.value === "combobox" ? "textbox" : role?.value;
    if (!ignored) told.get(word)?.push(name?.value ?? "");
  }
  const found: string[] = [];
  for (const [role, names] of told) {
    const own = await screen.names(role, /^/);
    if (own.sort().join("\n") !== names.sort().join("\n")) found.push(`${role}: ${own} | ${names}`);
  }
  return found;
}

/** Holds that tests find by role and name what the browser tells who listens to it. */
async function expectSameTree(): Promise<void> {
  let differ: string[] = [];
  const look = async () => {
    differ = await differences();
    return differ.length === 0;
  };
  await screen.until("both trees to agree", look).catch(() => undefined);
  expect(differ).toEqual([]);
}

type Press = [role: string, name: Name];

/** Presses, and holds that the view they lead to breaks nothing; what stands around it stays as it was. */
async function view(...presses: Press[]): Promise<void> {
  for (const [role, name] of presses) await screen.press(role, name);
  await session.upToDate();
  expect({ presses, broken: await violations("main") }).toEqual({ presses, broken: [] });
}

/** Makes a run, which is on the tape below the stage, too, and holds that the page breaks nothing. */
async function runToEnd(): Promise<void> {
  await screen.press("button", "Run");
  await screen.press("button", "To the end");
  await session.upToDate();
  expect(await violations()).toEqual([]);
}

/** Presses, holds that the sheet that opens breaks nothing, and leaves it. */
async function sheet(name: Name, ...presses: Press[]): Promise<void> {
  for (const [role, name] of presses) await screen.press(role, name);
  await screen.see("dialog", name);
  expect({ name, broken: await violations("[role=dialog]") }).toEqual({ name, broken: [] });
  await session.page.keyboard.press("Escape");
  await screen.seeNo("dialog", name);
}

describe("nothing of WCAG 2.2 AA is broken, in either theme", () => {
  it("at Sense and in its sheets", async () => {
    await open(glasshouseRound(), "sense");
    await sheet("New target", ["button", "Add target"]);
    await sheet("Coral tag", ["button", "Change Coral tag"]);
    await sheet("Belly sensor", ["button", "Change sensor"]);
    await sheet("New sensor", ["button", "Add sensor"]);
    await sheet(/White and dark/, ["button", "White and dark"]);
    await sheet(/Paste/, ["button", "Paste …"]);
    await view(["radio", "Figures"]);
    await view(["radio", "Bench"]);
    await sheet("Lights", ["button", "Lights"]);
    await sheet(/Height sweep/, ["button", "Height sweep"]);
    await view(
      ["radio", "Live"],
      ["button", /How the robot is linked/],
      ["option", "POST from this computer"],
      ["button", "Open the link"],
    );
  });

  it("at Decide and in its sheets", async () => {
    await open(glasshouseRound(), "decide");
    await sheet("Keys", ["button", "Keyboard shortcuts"]);
    await sheet(/Suggested rules/, ["button", "Suggest rules"]);
    await sheet(/./, ["button", "Teach from this stretch"]);
    await view(["radio", "Nearest"], ["button", "References from marks"]);
    await view(["radio", "Score"]);
    await view(["radio", "Why"]);
  });

  it("at Act and in its sheets", async () => {
    await open(glasshouseRound(), "act");
    await view(["button", /^Coral tag arrives, in Patrol/]);
    await sheet("Copy the response", ["button", "Copy to …"]);
    await view(["radio", "Diagram"]);
    await view(["radio", "In words"]);
    await view(["radio", "Rehearsal"]);
  });

  it("at Prove and in its sheets", async () => {
    await open(glasshouseRound(), "prove");
    await runToEnd();
    await view(["radio", "Why"]);
    await view(["radio", "Things"]);
    await view(["radio", "Log"]);
    await view(["radio", "Edit course"], ["option", /^Coral tag, patch/], ["button", "Edit checks"]);
    await screen.press("button", "Done");
    await view(["radio", "Sweep"]);
    await view(["radio", "Robot"]);
    await sheet(/Change the robot/, ["radio", "hand with cards"]);
  });

  it("at Ship", async () => {
    await open(glasshouseRound(), "ship");
    await view(["button", "Prove this file"]);
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
    await open(project, "prove");
    await runToEnd();
    await view(["radio", "Edit course"], ["option", /^Coral tag, card/]);
  });

  it.each<[machine: string, demo: () => Project, part: Name]>([
    ["a carrier on a rail", pipeRailCarrier, /^Plate 2: /],
    ["a sorter with a belt", pottingShed, /^Piece 2: /],
  ])("for %s: a run, its things, its course and its robot", async (_, demo, part) => {
    await open(demo(), "prove");
    await runToEnd();
    await view(["radio", "Things"]);
    await screen.press("radio", "Edit course");
    await screen.see("button", part);
    await view();
    await view(["radio", "Robot"]);
  });

  it("for a camera: its frame and boxes, its form, the computer's own, its field and score, its run", async () => {
    await open(bedWatch(packFrame), "sense");
    await screen.press("button", "Box in the middle");
    await screen.see("group", "This is");
    await view();
    await screen.press("button", "Coral tag");
    await screen.see("group", "The chosen box");
    await view();
    await sheet("Bow camera", ["button", "Change sensor"]);
    await screen.press("radio", "Camera");
    await screen.see("button", "Start the camera");
    await view();
    await screen.press("link", /^Decide,/);
    await screen.press("radio", "Score");
    await screen.see("table", "By frame");
    await view();
    await screen.press("link", /^Prove,/);
    await runToEnd();
    await screen.see("image", /^Frame/);
    await view();
  });

  it("in the list of projects, and where one is deleted", async () => {
    await session.goTo("/?list");
    await screen.see("heading", "Projects");
    await session.page.evaluate(AXE);
    expect(await violations()).toEqual([]);
    await sheet(/./, ["button", /^Delete /]);
  });
});

// The last one: a page that was asked for its tree keeps it up to date from then on.
it("tests find by role and name what the browser tells who listens to it, at every stage", async () => {
  await open(glasshouseRound(), "sense");
  await expectSameTree();
  for (const stage of ["Decide", "Act", "Prove", "Ship"]) {
    await screen.press("link", new RegExp(`^${stage},`));
    if (stage === "Act") await screen.press("button", /^Coral tag arrives, in Patrol/);
    if (stage === "Prove") await screen.press("button", "Run");
    if (stage === "Prove") await screen.press("button", "To the end");
    await session.upToDate();
    await expectSameTree();
  }
});
