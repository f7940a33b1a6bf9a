import { glasshouseRound, routeCards } from "@perceptum/core/demo";
import { numbered, type TargetId } from "@perceptum/core/names";
import { type Project, type ProjectDocument, splitProject } from "@perceptum/core/project";
import { courseAs, ROBOTS, run, verdicts } from "@perceptum/core/world";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import { withoutTapes } from "../trials/demos";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { atServer, textOf } = session;
/** Opens a project of this test's own. */
const open = (project: Project) => session.open(withoutTapes(project), "prove");
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

const runToEnd = async () => {
  await screen.press("button", /^Run( again)?$/);
  await screen.press("button", "To the end");
};

describe("a run", () => {
  it("of the chalk walk holds its checks, tells about each thing, and says why a response did not run", async () => {
    await open(glasshouseRound());
    await screen.choose(/^(Aisle Course|Course Aisle)$/, "Chalk walk");
    await runToEnd();
    await screen.until("all checks", async () => (await textOf('[aria-label="Checks that hold"]')) === "5 of 5 hold");
    await screen.press("radio", "Things");
    await screen.press("button", /^Go to Teal tag, patch 2,/);
    await screen.press("radio", "Why");
    await screen.choose(/Response/, "Amber strip arrives, in Astride the line");
    await screen.see("listitem", "does not hold: amber");
    await screen.see("listitem", "does not hold: the mode is Astride the line");
  });

  it("is steered by a card held up, which is kept, replayed and can be written into the course", async () => {
    await open(routeCards());
    await screen.choose(/Playing speed/, "× 0.25");
    await screen.press("button", "Run");
    await screen.press("button", "Pause run");
    const card = await screen.find("button", /^Hold Violet card before the sensor/);
    const box = await card.boundingBox();
    if (box === null) throw new Error("there is no card to hold");
    await screen.press("button", "Play run");
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    await screen.see("button", "Without");
    await page.mouse.up();
    await screen.press("button", "Write into the course");
    await atServer(
      "a fourth card",
      (p) => p.courses[0].cards.length === 4 && p.courses[0].cards[3].target === "violet",
    );
  });

  it("shows what the robot has on its display, which lamps are lit and what sounds, and offers to be heard", async () => {
    const project = glasshouseRound();
    const [patrol] = project.behaviour.modes;
    patrol.entering = [
      { id: "step-7" as never, step: "show", what: { picture: "sprout" } },
      { id: "step-8" as never, step: "lamp", colour: "coral" as never },
      { id: "step-9" as never, step: "tune", notes: [{ note: "A4", parts: 1, of: 1 }], perMinute: 20 },
    ];
    await open(project);
    await runToEnd();
    await screen.press("button", "Next event");
    await (await screen.find("slider", "Playhead")).focus();
    await page.keyboard.press("Home");
    await page.keyboard.press("PageUp");
    const shown = () => page.$eval('[aria-label="The robot shows"]', (e) => e.getAttribute("aria-description") ?? "");
    await screen.until("what it shows", async () => (await shown()).startsWith("sprout, lamp lit"));
    expect(await shown()).toContain("♪ 440 Hz");
    await page.evaluate(`
      window.heard = [];
      const Audio = window.AudioContext;
      window.AudioContext = class extends Audio { constructor() { super(); window.heard.push(this); } };
    `);
    const heard = () => page.evaluate("heard.map(({ state }) => state)") as Promise<string[]>;
    await screen.press("button", "Sound off");
    await screen.see("button", "Sound on");
    await (await screen.find("slider", "Playhead")).focus();
    await page.keyboard.press("Home");
    await screen.press("button", "Play run");
    await screen.until("the tune", async () => (await heard()).length > 0);
    // It is longer than what was played of it, and falls silent all the same.
    await screen.press("button", "Pause run");
    await screen.until("silence", async () => (await heard()).join() === "closed");
  });

  it("does not play by itself for those who want less motion, and tells lanes and trail in words", async () => {
    await page.emulateMediaFeatures([{ name: "prefers-reduced-motion", value: "reduce" }]);
    await open(glasshouseRound());
    await screen.press("button", "Run");
    await screen.see("button", /^holds: /);
    await screen.see("button", "Play run");
    const end = Number(await screen.valueOf("slider", "Playhead"));
    expect(end).toBeGreaterThan(10_000);
    const words = () => page.$eval('[aria-label="Playhead"]', (e) => e.getAttribute("aria-valuetext") ?? "");
    await (await screen.find("slider", "Playhead")).focus();
    await page.keyboard.press("[");
    await page.keyboard.press("[");
    for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowRight");
    await screen.until("the lanes", async () => /^\d+\.\d\d seconds; truth .+; saw .+; did /.test(await words()));
    const trail = await page.$eval('[role="img"][aria-label^="Aisle, "]', (e) => e.getAttribute("aria-description"));
    expect(trail).toMatch(/^The trail goes from 16, 40 cm to .+; seen on it: .*Coral tag at \d/);
  });

  it("offers the lights where one is chosen", async () => {
    await open(glasshouseRound());
    await screen.press("button", "Lights …");
    await screen.see("table", "Lights");
    await page.keyboard.press("Escape");
    await screen.seeNo("dialog", /./);
  });

  it("is compared with another: where they part is named", async () => {
    await open(glasshouseRound());
    await runToEnd();
    await screen.press("button", "Compare");
    await screen.choose(/light/, "Noon sun");
    await runToEnd();
    await screen.until("where they part", async () =>
      /They part at \d+\.\d\d s/.test(await textOf('[aria-label="Where the runs part"]')),
    );
  });
});

/** Puts the keyboard's focus on a part of the course. */
const focus = async (part: RegExp) => {
  const element = await screen.find("button", part);
  await element.evaluate((e) => (e as SVGElement).focus());
};

describe("a course", () => {
  it("is drawn by pointer and keys, snaps, and is undone step by step", async () => {
    await open(glasshouseRound());
    await screen.press("button", "Add course");
    await screen.choose(/Add to the course/, "patch, disc");
    const part = await screen.find("button", /^Coral tag, patch at 100, 60 cm/);
    const box = await part.boundingBox();
    if (box === null) throw new Error("there is no patch");
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 40, box.y + box.height / 2 + 23);
    await page.mouse.move(box.x + box.width / 2 + 83, box.y + box.height / 2 + 23);
    await page.mouse.up();
    const at = (ask: (x: number, y: number) => boolean) => (p: Parameters<Parameters<typeof atServer>[1]>[0]) =>
      p.courses[2]?.patches[0] !== undefined && ask(...p.courses[2].patches[0].at);
    await atServer(
      "it on whole centimetres",
      at((x, y) => x > 1100 && x % 10 === 0 && y % 10 === 0),
    );
    await focus(/^Coral tag, patch at/);
    await page.keyboard.press("ArrowUp");
    await screen.enter("Diameter in cm", "20");
    await screen.choose(/or, drawn by the seed/, "Teal tag");
    await atServer("a tile drawn at random", (p) => typeof p.courses[2].patches[0].target === "object");
    await screen.press("button", "Duplicate");
    await focus(/^Coral tag or Teal tag, patch at/);
    await page.keyboard.press("Delete");
    await atServer("one patch", (p) => p.courses[2].patches.length === 1);
    await screen.choose(/Add to the course/, "zone");
    await screen.enter("Name of the zone", "Shed");
    await screen.press("button", "Edit checks");
    await screen.enter("Add a check", 'ends in "Shad"');
    await screen.until("that there is none", async () => /no zone “Shad”/.test(await textOf("[role=alert]")));
    await screen.enter("Add a check", 'ends in "Shed"');
    await atServer("the check", (p) => p.courses[2].checks.length === 1);
    // A zone that a check names stays.
    await screen.press("button", "Remove");
    await screen.until("why it stays", async () => /check names the zone Shed/.test(await textOf("[role=alert]")));
    await atServer("the zone", (p) => p.courses[2].zones.length === 1);
  });

  it("of thousands of patches is one stop of Tab in the drawing and one in the list, and told in words", async () => {
    const project = glasshouseRound();
    const patch = (i: number) => ({
      id: `patch-${i + 1}` as never,
      shape: { disc: 12 },
      target: "coral" as TargetId,
      at: [20 + 20 * (i % 100), 20 + 20 * Math.floor(i / 100)] as [number, number],
      angle: 0,
    });
    project.courses = [
      { ...project.courses[0], patches: Array.from({ length: 3000 }, (_, i) => patch(i)), checks: [] },
    ];
    await open(project);
    await screen.press("radio", "Edit course");
    await screen.see("button", "Coral tag, patch at 2, 2 cm");
    const stops = (selector: string) => page.$$eval(`${selector} [tabindex="0"]`, (all) => all.length);
    expect(await stops('[role="application"]')).toBe(1);
    await screen.see("listbox", "Parts of the course");
    expect((await screen.names("option")).length).toBeLessThan(60);
    await screen.press("option", "Coral tag, patch at 4, 2 cm");
    await (await screen.find("button", "Coral tag, patch at 4, 2 cm")).evaluate((e) => (e as SVGElement).focus());
    await page.keyboard.press("PageDown");
    const focused = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label"));
    await screen.until("the next", async () => (await focused()) === "Coral tag, patch at 6, 2 cm");
    expect(await stops('[role="application"]')).toBe(1);
  });

  it("is painted from a picture", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Edit course");
    const file = await page.evaluate(async () => {
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [200, 100];
      const context = canvas.getContext("2d");
      if (context === null) return "";
      context.fillStyle = "#64666a";
      context.fillRect(0, 0, 200, 100);
      context.fillStyle = "#e4573d";
      context.fillRect(40, 20, 40, 40);
      return canvas.toDataURL("image/png").split(",")[1];
    });
    const chooser = await page.waitForSelector('input[type="file"][accept*="image"]');
    await chooser?.evaluate((input, data) => {
      const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
      const transfer = new DataTransfer();
      transfer.items.add(new File([bytes], "course.png", { type: "image/png" }));
      (input as HTMLInputElement).files = transfer.files;
      input.dispatchEvent(new Event("change", { bubbles: true }));
    }, file);
    await screen.see("dialog", "Course from a picture");
    await screen.until("its colours", async () =>
      /92\.0 %/.test(await textOf('[aria-label="Colours of the picture"]')),
    );
    await screen.enter("Width on the floor in cm", "200");
    await screen.press("button", "Paint the course");
    await atServer("one patch where it was in the picture", (p) => {
      const { patches, size } = p.courses[0];
      const [patch] = patches;
      return (
        patches.length === 1 &&
        size[1] === 1000 &&
        patch.target === "coral" &&
        "rect" in patch.shape &&
        Math.round(patch.shape.rect[0]) === 400 &&
        Math.round(patch.at[0]) === 600 &&
        Math.round(patch.at[1]) === 600
      );
    });
  });
});

describe("the robot", () => {
  it("drives backwards with motors mounted reversed, which a finding says and mends", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Robot");
    await screen.press("checkbox", "left-motor mounted reversed");
    await screen.press("checkbox", "right-motor mounted reversed");
    await screen.press("radio", "One run");
    await runToEnd();
    await screen.until("that it left", async () => /Left the course/.test(await textOf('[aria-label="Checks"]')));
    await screen.press("button", "Invert it: left-motor drives backwards");
    await screen.press("button", "Invert it: right-motor drives backwards");
    // While a run is made there is none yet whose end could be gone to: the new one would play from its beginning.
    const ends = await page.evaluate(async () => {
      const button = (text: string) => byRole("button", { text })[0] as HTMLElement;
      button("Run").click();
      await new Promise(requestAnimationFrame);
      return button("To the end").ariaDisabled;
    });
    expect(ends).toBe("true");
    await screen.press("button", "To the end");
    await screen.until("all checks", async () => (await textOf('[aria-label="Checks that hold"]')) === "6 of 6 hold");
  });

  it("by hand sees the cards of the schedule and ends a while after the last", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Robot");
    await screen.press("radio", "hand with cards");
    // The demo's courses lie on a floor: what they lose is said first, and nothing is done before the answer.
    await screen.see("dialog", "Change the robot to a hand with cards?");
    await screen.until("what is lost", async () => /Aisle: \d+ patches/.test(await textOf('[role="dialog"]')));
    await screen.press("button", "Keep the robot");
    await screen.press("radio", "hand with cards");
    await screen.press("button", "Change the robot");
    await atServer(
      "courses by hand",
      (p) => p.robot.kind === "hand" && p.courses.every((c) => c.kind === "hand" && c.patches.length === 0),
    );
    await screen.press("button", "Add course");
    await screen.choose(/Add to the course/, "card held up");
    await screen.choose(/Add to the course/, "card held up");
    await screen.press("button", "Edit checks");
    await screen.enter("Add a check", "sees coral, coral");
    await screen.press("radio", "One run");
    await runToEnd();
    // Two cards of 1 s, each 0.5 s after what was before, and 5 s more.
    await screen.until("its end", async () =>
      /Time was over after 8\.00 s/.test(await textOf('[aria-label="Checks"]')),
    );
    await screen.see("button", /^holds: Sees Coral tag, then Coral tag/);
    await (await screen.find("slider", "Playhead")).focus();
    await page.keyboard.press("Home");
    await screen.press("button", "Next event");
    await screen.see("image", /^Belly sensor: Coral tag at 1\d mm, taken for Coral tag/);
    await screen.press("radio", "Sweep");
    await screen.see("textbox", "Heights added, in mm");
    expect(await screen.names("textbox", "Factors on the speed")).toEqual([]);
    expect(await screen.names("button", "Find it")).toEqual([]);
  });

  it("on a rail halts at every plate of a loop, also with its motor built in reversed once that is corrected", async () => {
    const project = glasshouseRound();
    project.courses = [{ ...project.courses[1], checks: [] }];
    await open(project);
    await screen.press("radio", "Robot");
    await screen.press("radio", "carrier on a rail");
    await screen.see("textbox", "Between the bogies in mm");
    await screen.press("radio", "Edit course");
    await screen.press("button", "Add a plate");
    await screen.press("button", "Add a plate");
    await screen.enter("Plate 2 along the rail in cm", "120");
    await screen.enter("Bend of section 2 in degrees", "170");
    // It does not meet itself any more, and no straight leads it back.
    await screen.press("button", "Close the loop");
    await screen.until("why", async () => /Its end is .* cm from its beginning/.test(await textOf("[role=alert]")));
    await screen.press("button", "Undo: rail changed");
    await screen.press("button", "Edit checks");
    await screen.enter("Add a check", "answers every coral once");
    await atServer("a loop with two plates", (p) => {
      const [course] = p.courses;
      return course.kind === "rail" && course.rail.closed && course.plates.length === 2 && course.checks.length === 1;
    });
    await screen.press("link", /^Act,/);
    // What needs a second wheel is not offered; where it stands in the project it is said.
    await screen.see("listitem", /^error: Nursery cart cannot do a step in /);
    await screen.press("button", /^on entering Patrol/);
    await screen.press("button", /Or choose a step/);
    await screen.see("option", /^drive ‹speed› %$/);
    expect(await screen.names("option", /^(turn|wheels|follow)/)).toEqual([]);
    await page.keyboard.press("Escape");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    await screen.enter("Add a step", "finish");
    await screen.press("link", /^Prove,/);
    await screen.press("radio", "Robot");
    await screen.press("checkbox", "motor mounted reversed");
    await screen.press("button", /^Invert it: motor drives backwards/);
    await screen.press("radio", "One run");
    await runToEnd();
    await screen.until("its end", async () => /Finished after/.test(await textOf('[aria-label="Checks"]')));
    await screen.press("radio", "Things");
    await screen.see("button", /^Go to Coral tag, plate \d/);
  });

  it("by hand has cards that are moved in time and height, by pointer and keys", async () => {
    const project = glasshouseRound();
    project.robot = ROBOTS.get("hand").fresh(project.robot);
    const card = { target: "coral" as TargetId, atMs: 1000, forMs: 1000, heightMm: 20 };
    const later = { ...card, target: "teal" as TargetId, atMs: 6000 };
    const cards = numbered("card", [card, later]);
    project.courses = [{ ...courseAs(project.courses[0], "hand").course, cards, checks: [] }];
    await open(project);
    await screen.press("radio", "Edit course");
    const part = /^Coral tag, card at/;
    const box = await (await screen.find("button", part)).boundingBox();
    if (box === null) throw new Error("there is no card");
    const [x, y] = [box.x + 10, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 40, y + 10);
    await page.mouse.move(x + 80, y + 20);
    await page.mouse.up();
    const cardNow = (ask: (c: { atMs: number; forMs: number; heightMm?: number }) => boolean) => (p: ProjectDocument) =>
      ask(p.courses[0].cards[0] ?? { atMs: 0, forMs: 0 });
    await atServer(
      "it later and lower, on round times",
      cardNow(({ atMs, heightMm = 0, forMs }) => atMs > 1000 && atMs % 50 === 0 && heightMm > 20 && forMs === 1000),
    );
    await screen.enter("Height in mm", "18");
    await focus(part);
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("ArrowRight");
    await screen.enter("At in s", "2");
    await atServer(
      "the typed and stepped numbers",
      cardNow(({ atMs, heightMm }) => atMs === 2000 && heightMm === 19),
    );
    await screen.see("image", "Coral tag 19 mm before Belly sensor");
    await focus(part);
    await page.keyboard.press("Delete");
    await atServer("the other card alone", (p) => p.courses[0].cards.length === 1);
    // The keyboard goes on with the next one.
    const focused = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? "");
    await screen.until("the next card", async () => (await focused()).startsWith("Teal tag, card at"));
    await page.keyboard.down("Control");
    await page.keyboard.press("z");
    await page.keyboard.up("Control");
    await atServer("it again", (p) => p.courses[0].cards.length === 2);
  });

  it("gets lamps, buttons and servos that phrases can name", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Robot");
    await screen.enter("Add a servo", "arm");
    await screen.enter("Add a button", "start-key");
    await screen.press("link", /^Act,/);
    await screen.press("button", /^on entering Patrol/);
    await screen.enter("Add a step", "servo arm to 45 at 90");
    // The menu fills in the one button that there is.
    await screen.choose(/Or choose a row/, "button ‹button› pressed");
    await screen.press("button", "Insert");
    await atServer("both", (p) => {
      const [mode] = p.behaviour.modes;
      return mode.entering.at(-1)?.step === "servo" && mode.responses.some((r) => "becomes" in r.when);
    });
  });
});

describe("a sweep", () => {
  it("shows the share that holds and what costs most, and opens a failing run that fails as there", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Sweep");
    await screen.enter("Factors on the speed", "1");
    await screen.enter("Heights added, in mm", "0");
    await screen.enter("Number of seeds", "3");
    await screen.press("button", "Sweep");
    await screen.until("12 runs", async () => /12 runs made in /.test(await textOf('[aria-label="How it holds"]')));
    expect(await textOf('[aria-label="Share that holds"]')).toMatch(/^50 %/);
    await screen.see("image", /^Share of runs that hold by light and /);
    expect(await textOf('table[aria-label^="Share of runs that hold by light and "]')).toMatch(/Noon sun.*\d+ %/);
    await screen.press("button", /^Open the failing run of Noon sun/);
    await screen.press("button", "To the end");
    await screen.see("button", /^fails: Never answers Terracotta rim/);
    // The same figures as the core gives.
    const { document } = splitProject(glasshouseRound());
    const trace = run(document, { course: "aisle", light: "noon-sun", start: "South door", seed: 1 });
    const [, , terracotta] = verdicts(trace);
    await screen.see("button", new RegExp(`^fails: Never answers Terracotta rim, ${terracotta.verdict.figure}(,|$)`));
  });

  it("is cancelled, and what was made stays", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Sweep");
    await screen.enter("Number of seeds", "500");
    await screen.press("button", "Sweep");
    await screen.see("progressbar", "Sweep");
    await screen.press("button", "Cancel");
    await screen.until("that it was cancelled", async () =>
      /of 18,000 runs made, then cancelled: these stay/.test(await textOf('[aria-label="How it holds"]')),
    );
  });

  it("of very many runs is asked back, and of none cannot begin", async () => {
    await open(glasshouseRound());
    await screen.press("radio", "Sweep");
    await screen.enter("Number of seeds", "300000");
    await screen.press("button", "Sweep");
    await screen.until("the question", async () => /runs take long/.test(await textOf("[role=alert]")));
    await screen.press("button", "Sweep");
    await screen.until("the refusal", async () => /too many/.test(await textOf("[role=alert]")));
  });
});
