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

describe("the grid", () => {
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
