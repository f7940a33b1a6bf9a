import { glasshouseRound } from "@perceptum/core/demo";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { textOf } = session;
let page: Page;
let screen: Screen;
beforeEach(async () => {
  ({ page, screen } = session);
  await session.open(glasshouseRound(), "decide");
  await screen.see("button", /^Rule 1, Coral tag/);
});

const share = () => textOf('[aria-label="Share judged rightly"]');

describe("a rule", () => {
  it("is opened by choosing its target", async () => {
    await screen.press("button", /^Violet tag, \d+ marked readings/);
    await screen.see("slider", "Violet tag, lower hue bound");
    await screen.see("textbox", "Compact form of Violet tag’s rule");
  });

  it("gets a box that is drawn in the field", async () => {
    await screen.press("button", "Draw a box");
    const plot = await (await screen.find("group", "Boxes of the rules, hue and saturation")).boundingBox();
    if (plot === null) throw new Error("there is no field");
    await page.mouse.move(plot.x + plot.width * 0.4, plot.y + plot.height * 0.3);
    await page.mouse.down();
    await page.mouse.move(plot.x + plot.width * 0.45, plot.y + plot.height * 0.4);
    await page.mouse.move(plot.x + plot.width * 0.5, plot.y + plot.height * 0.6);
    await page.mouse.up();
    await screen.see("slider", "Coral tag, clause 2, upper saturation bound");
    await screen.see("button", "Draw a box");
  });

  it("gets a box that is drawn faster than the page", async () => {
    await screen.press("button", "Draw a box");
    await screen.dragAtOnce("group", "Boxes of the rules, hue and saturation", [0.4, 0.3], [0.5, 0.6]);
    await screen.see("slider", "Coral tag, clause 2, upper saturation bound");
    await screen.see("button", "Draw a box");
  });
});

describe("the suggestion", () => {
  it("is taken whole, and undone", async () => {
    await screen.until("the share", async () => /^9\d\.\d % right$/.test(await share()));
    const before = await share();
    await screen.press("button", "Suggest rules");
    await screen.press("button", "Use all rules");
    await screen.until("a better share", async () => /^(100|99\.9)/.test(await share()));
    await screen.press("button", "Undo: suggestion taken");
    await screen.until("the share before", async () => (await share()) === before);
  });
});

describe("score and comparing", () => {
  it("steps through the readings of a cell, and shows what flips against rules kept as before", async () => {
    await screen.press("radio", "Score");
    await screen.press("button", /^\d+ readings of Terracotta rim taken for Coral tag/);
    await screen.until("the stretch", async () =>
      /Stretch \d+ of \d+, on Aisle walk/.test(await textOf('[aria-label="Score"]')),
    );
    expect(await textOf('[aria-label="Score"]')).toMatch(/95 % interval .* rests on 42 visits/);
    await screen.press("button", "Compare with these rules from now on");
    await screen.press("radio", "Rules");
    await screen.press("button", /^Apply: Terracotta rim is taken/);
    await screen.press("radio", "Score");
    await screen.until("what flipped", async () => /\+1\d\d −0/.test(await textOf('[aria-label="Against before"]')));
    await screen.press("button", "Stop comparing");
    await screen.see("button", "Compare with these rules from now on");
  });
});

describe("a stage without findings", () => {
  it("says which other one has some", async () => {
    await screen.press("link", /^Prove/);
    await screen.until("the count in Decide", async () =>
      (await textOf('[aria-label="Findings"]')).includes("None here, 1 in Decide."),
    );
    await screen.press("link", /^Decide/);
    await screen.see("button", "Suggest rules");
  });
});
