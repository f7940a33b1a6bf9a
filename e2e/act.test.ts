import { glasshouseRound, routeCards } from "@perceptum/core/demo";
import { emptyProject } from "@perceptum/core/project";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import type { Name, Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { open, atServer, textOf } = session;
let page: Page;
let screen: Screen;
beforeEach(() => {
  ({ page, screen } = session);
});

const stage = (name: string) => screen.press("link", new RegExp(`^${name},`));
const fill = async (label: string, text: string) => screen.enter(label, text);

/** Takes a finding's fix: one that moved away just then, since other findings came, is pressed again. */
async function mend(fix: Name): Promise<void> {
  const undo = async () => (await screen.names("button", /^Undo/)).join();
  const before = await undo();
  await screen.until(`the fix ${fix}`, async () => {
    await screen.press("button", fix);
    for (let asked = 0; asked < 100; asked++) if ((await undo()) !== before) return true;
    return false;
  });
}

describe("drive until coral, stop, chime, drive off, look for the next", () => {
  it("is built from an empty project, shows the classic faults, and passes its checks over 100 seeds in two lights", async () => {
    await open(emptyProject("Coral stops"), "sense");
    await screen.press("button", "Add target");
    await screen.see("dialog", "New target");
    await page.type("[role=dialog] input[type=text]", "Coral plate");
    await page.type("[role=dialog] input[maxlength]", "CO");
    await page.$eval("[role=dialog] input[type=color]", (input) => {
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set;
      set?.call(input, "#e4573d");
      input.dispatchEvent(new Event("input", { bubbles: true }));
    });
    await screen.press("button", "Add");
    await screen.seeNo("dialog", /./);
    await screen.press("button", "Lights");
    await screen.see("dialog", "Lights");
    await screen.choose(/Add a light/, /Noon|sun/i);
    await screen.press("button", "Close");
    await screen.seeNo("dialog", /./);

    await stage("Decide");
    await screen.choose(/Add a rule for/, "Coral plate");
    await fill("Compact form of Coral plate’s rule", "hue 345..25 and sat >= 45 % and val >= 12 %");
    await atServer("the rule", (p) => p.ruleSets[0].rules[0]?.any[0]?.all.length === 3);

    await stage("Prove");
    await screen.press("radio", "Edit course");
    for (const x of ["60", "120"]) {
      await screen.choose(/Add to the course/, "patch, rectangle");
      await screen.choose(/^(Floor|Coral plate) target$/, "Coral plate");
      await fill("Along in cm", "3.5");
      await fill("x in cm", x);
    }
    await screen.press("button", "Edit checks");
    await fill("Add a check", "answers every coral-plate once");
    await fill("Add a check", "stops within 4 cm after coral-plate");
    await fill("Add a check", "never slips");
    await screen.press("button", "Done");
    await atServer("patches and checks", (p) => p.courses[0].patches.length === 2 && p.courses[0].checks.length === 3);

    await stage("Act");
    await screen.press("button", /^on entering Patrol/);
    await fill("Add a step", "drive 100 %");
    await fill("Add a row", "Coral plate is present");
    await screen.press("radio", "while present");
    await fill("Add a step", "stop");
    await fill("Add a step", "tone C5 for 0.3 s");
    // It fires twice and more: the finding says so, and mends it.
    await mend("Once per visit: The answer to Coral plate fires again and again");
    // It sticks on the plate.
    await mend("Drive on: After Coral plate the robot stops and never starts again");
    // It is too fast for the plate.
    await screen.see("listitem", "error: Patrol is too fast for Coral plate");
    await stage("Prove");
    await screen.press("radio", "One run");
    await screen.press("button", "Run");
    await screen.press("button", "To the end");
    await screen.see("button", /^fails: /);
    await stage("Act");
    await mend(/^Slow down to \d+ %: Patrol is too fast for Coral plate/);
    await screen.seeNo("listitem", "error: Patrol is too fast for Coral plate");
    await screen.press("button", /^on entering Patrol/);
    await fill("Step 1", "drive 30 %");
    await screen.press("button", /^Coral plate is present, in Patrol/);
    await screen.until(
      "the response",
      async () => (await screen.valueOf("textbox", "When")) === "Coral plate is present",
    );
    await fill("Step 3", "drive 30 %");

    await stage("Prove");
    await screen.press("radio", "Sweep");
    await fill("Factors on the speed", "1");
    await fill("Heights added, in mm", "0");
    await fill("Number of seeds", "100");
    await screen.press("button", "Sweep");
    await screen.until("200 runs", async () => /200 runs made in /.test(await textOf('[aria-label="How it holds"]')));
    expect(await textOf('[aria-label="Share that holds"]')).toMatch(/^100 % \(9\d to 100 %\)/);
  });
});

describe("steps", () => {
  it("are completed, chosen from a menu, tried alone, moved and made a routine that is renamed everywhere", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    // Words are offered, and taken with the keys.
    await (await screen.find("textbox", "Add a step")).click();
    await page.keyboard.type("go to as");
    await screen.see("option", "Astride the line");
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Tab");
    await page.keyboard.press("Enter");
    await screen.until(
      "the step",
      async () => (await screen.valueOf("textbox", "Step 6")) === "go to Astride the line",
    );
    await screen.press("button", "Remove step 6");
    // From the menu, with its fields.
    await screen.choose(/Or choose a step/, "count ‹counter› + ‹n›");
    await screen.press("button", "Insert");
    await screen.until("the step", async () => (await screen.valueOf("textbox", "Step 6")) === "count tally + 1");
    // A condition is completed word by word in the menu, too, and one that cannot be read is said there.
    await screen.choose(/Or choose a step/, /^wait until ‹condition›$/);
    await screen.enter("condition", "corral");
    await screen.until("what is wrong", async () => /Column 1/.test(await textOf('[role="alert"]')));
    await screen.enter("condition", "coral or teal");
    await screen.press("button", "Insert");
    await screen.until(
      "the step",
      async () => (await screen.valueOf("textbox", "Step 7")) === "wait until Coral tag or Teal tag",
    );
    await screen.press("button", "Remove step 7");
    await screen.press("button", "Try step 5 alone");
    await screen.until("what it does", async () =>
      /goes on; after 10 s: the robot is 13\d\.\d cm farther/.test(
        await textOf('[aria-label="What the step alone does"]'),
      ),
    );
    await screen.press("button", "Move step 6 up");
    await screen.until("the order", async () => (await screen.valueOf("textbox", "Step 5")) === "count tally + 1");
    for (const i of [2, 3, 4]) await screen.press("button", `Pick step ${i}`);
    await screen.enter("Make a routine of the picked steps", "flash");
    await screen.until("the routine", async () => (await screen.valueOf("textbox", "Step 2")) === "do flash");
    await screen.enter("Name of the routine flash", "signal");
    await screen.until("its new name", async () => (await screen.valueOf("textbox", "Step 2")) === "do signal");
    await screen.press("button", "Steps of the routine signal");
    await screen.enter("Add a step", "do signal");
    await screen.until("that it would reach itself", async () =>
      /reaches itself: signal does signal/.test(await textOf("[role=alert]")),
    );
    await page.keyboard.press("Escape");
    await atServer("the routine", (p) => p.behaviour.routines.some((r) => r.id === "signal" && r.steps.length === 3));
  });

  it("that cannot be read say at which column", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    await screen.enter("Add a step", "follow chalk middle");
    await screen.until("the place", async () => /^Column 14: left edge, right edge/.test(await textOf("[role=alert]")));
  });
});

describe("responses", () => {
  it("are copied to other targets and modes at once, moved, and undone", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    await screen.press("button", "Copy to …");
    await screen.press("checkbox", /Teal tag/);
    await screen.press("checkbox", /Violet tag/);
    await screen.press("checkbox", "Astride the line");
    await screen.press("button", "Add 4 responses");
    await screen.see("button", /^Violet tag arrives, in Astride the line: stop/);
    await screen.press("button", /^Violet tag arrives, in Astride the line/);
    await screen.choose(/move to mode/, "In the bay");
    await screen.see("button", /^Violet tag arrives, in Astride the line: ignored/);
    await screen.press("button", /^Undo: response moved to /);
    await screen.press("button", "Undo: response copied");
    await screen.see("button", /^Violet tag arrives, in Patrol: ignored/);
  });
});

describe("the grid", () => {
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? "");

  it("is one stop of Tab; the arrow keys go from cell to cell, and Enter chooses", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("button", /^on entering Patrol/);
    await page.keyboard.press("ArrowDown");
    await screen.until("the cell below", async () => (await focused()).startsWith("Coral tag arrives, in Patrol:"));
    await page.keyboard.press("ArrowRight");
    await screen.until("the cell beside", async () => (await focused()).startsWith("Coral tag arrives, in In the bay"));
    await page.keyboard.press("End");
    await screen.until("the last", async () => /^Coral tag arrives, in (?!Patrol|In the bay)/.test(await focused()));
    await page.keyboard.press("Home");
    await page.keyboard.press("ArrowUp");
    await page.keyboard.press("ArrowUp");
    await screen.until("the first", async () => (await focused()).startsWith("on entering Patrol"));
    await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
    await screen.until("its steps", async () => (await screen.valueOf("textbox", "Step 1")) === "stop");
    // Two cells follow one another in the grid, but not for Tab.
    await page.keyboard.press("Tab");
    expect(await focused()).not.toMatch(/, in /);
  });

  it("shows all rows, or those of one mode", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("button", /^on entering In the bay/);
    const rows = async () => (await screen.names("button", /arrives, in In the bay/)).length;
    const all = await rows();
    await screen.press("checkbox", "only rows of In the bay");
    await screen.until("fewer", async () => (await rows()) < all);
    expect(await screen.names("button", /, in In the bay: ignored/)).toEqual([]);
    await screen.press("checkbox", "only rows of In the bay");
    await screen.until("all again", async () => (await rows()) === all);
  });

  it("wraps a long step, so that all of it can be read", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("button", /^Coral tag arrives, in Patrol/);
    const height = async () => (await (await screen.find("textbox", "Step 1")).boundingBox())?.height ?? 0;
    const before = await height();
    const long = "wait until Coral tag or Teal tag or Violet tag or Amber strip or tally >= 100, at most 20 s";
    await screen.enter("Step 1", long);
    await screen.until("more lines", async () => (await height()) >= 2 * before);
    const field = await screen.find("textbox", "Step 1");
    expect(await field.evaluate((e) => e.scrollHeight - e.clientHeight)).toBeLessThanOrEqual(1);
    expect(await screen.valueOf("textbox", "Step 1")).toBe(long);
  });
});

describe("the behaviour", () => {
  it("is shown as a diagram whose arrows are chosen, and told in words", async () => {
    await open(glasshouseRound(), "act");
    await screen.press("radio", "Diagram");
    await screen.press("button", "Teal tag arrives, from Along the line to Astride the line");
    await screen.until("its steps", async () => (await screen.valueOf("textbox", "Step 1")) === "lamp Teal tag");
    await screen.press("radio", "In words");
    await screen.see("article", "The behaviour in words");
    expect(await textOf('[aria-label="The behaviour in words"]')).toContain(
      "When Teal tag arrives: light the lamp in Teal tag’s colour, then go on to Astride the line.",
    );
  });

  it("is rehearsed on a tape, with its list", async () => {
    await open(routeCards(), "act");
    await screen.press("radio", "Rehearsal");
    await screen.see("list", "Rehearsal");
    await screen.until("the list", async () =>
      (await textOf('[aria-label="Rehearsal"]')).includes("route holds Coral card, Violet card, Teal card"),
    );
    await screen.press("button", /mode Go the route/);
    await screen.until("the playhead there", async () => Number(await screen.valueOf("slider", "Playhead")) > 3500);
  });
});

describe("what adds to the grid", () => {
  it("stands beside its title, also while a row is chosen from the menu", async () => {
    await open(glasshouseRound(), "act");
    await screen.choose(/Or choose a row/, /^‹target› arrives$/);
    await screen.see("button", "Insert");
    const placed = await page.$eval('[aria-label="Menu of rows"]', (menu) => {
      const all = [...(menu.parentElement?.parentElement?.children ?? [])];
      return all.flatMap((title, i) => {
        if (i % 2 === 1) return [];
        const [a, b] = [title.getBoundingClientRect(), all[i + 1].getBoundingClientRect()];
        return [[title.textContent, a.right <= b.left && a.top < b.bottom && a.bottom > b.top]];
      });
    });
    expect(placed).toEqual([
      ["Add a row", true],
      ["Counters", true],
      ["Lists i", true],
      ["Routines", true],
    ]);
  });
});
