import { glasshouseRound } from "@perceptum/core/demo";
import { joinReadings, splitProject } from "@perceptum/core/project";
import type { Page } from "puppeteer-core";
import { beforeEach, describe, expect, it } from "vitest";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
const { atServer, textOf } = session;
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

  it("follows its compact form, and stays where that cannot be read", async () => {
    await screen.enter("Compact form of Coral tag’s rule", "hue 354..20 and sat >= 56 % or not val <= 10 %");
    await atServer("the clauses", (p) => p.ruleSets[0].rules[0].any.length === 2);
    await screen.enter("Compact form of Coral tag’s rule", "hue 354..");
    await screen.until("the place", async () =>
      (await page.$$eval("[role=alert]", (all) => all.map((e) => e.textContent).join())).includes(
        "The rule stays as it was",
      ),
    );
    await atServer("still two clauses", (p) => p.ruleSets[0].rules[0].any.length === 2);
  });

  it("is copied, and gets another clause that can be left out again", async () => {
    await screen.press("button", "Copy Coral tag’s rule");
    await screen.see("button", /^Rule 2, Coral tag/);
    await screen.press("button", "Or: another clause for Coral tag’s rule");
    await screen.see("slider", "Coral tag, clause 2, lower hue bound");
    await screen.press("button", "Leave out clause 2 of Coral tag’s rule");
    await screen.seeNo("slider", "Coral tag, clause 2, lower hue bound");
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
  it("is taken rule by rule or whole, and undone", async () => {
    await screen.until("the share", async () => /^9\d\.\d % right$/.test(await share()));
    const before = await share();
    await screen.press("button", "Suggest rules");
    await screen.press("checkbox", "Take the rule for Violet tag");
    await screen.see("button", "Take 4 of 5");
    await screen.press("checkbox", "Take the rule for Violet tag");
    expect(await textOf('[aria-label="Tried light by light"]')).toMatch(/Overcast\d+ of \d+/);
    await screen.press("button", "Use all rules");
    await screen.until("a better share", async () => /^(100|99\.9)/.test(await share()));
    await screen.press("button", "Undo: suggestion taken");
    await screen.until("the share before", async () => (await share()) === before);
  });
});

describe("a mark that is too long", () => {
  it("is told with the suggestion, trimmed there, and both methods are compared", async () => {
    const project = splitProject(glasshouseRound());
    const tape = project.document.tapes[0];
    const mark = tape.marks.find((m) => m.target === "coral") as (typeof tape.marks)[number];
    const end = mark.to + 200;
    tape.marks = tape.marks
      .map((m) => (m !== mark && m.from > mark.from && m.from <= end ? { ...m, from: end + 1 } : m))
      .filter((m) => m.from <= m.to)
      .map((m) => (m === mark ? { ...m, to: end } : m));
    await session.open(joinReadings(project.document, project.readings), "decide");
    await screen.press("button", "Suggest rules");
    await screen.until("the comparison", async () =>
      /the bands judge [\d.]+\s% rightly, nearest references [\d.]+\s%/.test(await textOf('[role="dialog"]')),
    );
    expect(await textOf('[aria-label="Marks that look wrong"]')).toMatch(/The last 0\.\d\d s of a mark of Coral tag/);
    await screen.press("button", /^Trim the mark of Coral tag/);
    await atServer("the trimmed mark", (p) =>
      p.tapes[0].marks.some((m) => m.target === "coral" && m.to < end && m.to >= mark.to - 40 && m.from === mark.from),
    );
    await screen.seeNo("button", /^Trim the mark of Coral tag/);
    await screen.press("button", "Take nearest references");
    await atServer(
      "the method",
      (p) => p.ruleSets[0].method === "nearest" && p.ruleSets[0].nearest.references.length > 8,
    );
    await screen.press("button", "Undo: references taken");
    await atServer("the bands again", (p) => p.ruleSets[0].method === "bands");
  });
});

describe("nearest references", () => {
  it("come from marks, reject what lies far, and are typed and deleted", async () => {
    await screen.press("radio", "Nearest");
    await screen.until("nothing known", async () => Number.parseFloat(await share()) < 80);
    await screen.press("button", "References from marks");
    await screen.until("a good share", async () => Number.parseFloat(await share()) > 97);
    await screen.enter("Coral tag, hue of reference 1", "12");
    await atServer("the hue", (p) => p.ruleSets[0].nearest.references[0]?.hue === 12);
    await screen.press("button", "Delete reference 1, Coral tag");
    await atServer("one less", (p) => p.ruleSets[0].nearest.references.length === 15);
    await (await screen.find("slider", "reject beyond")).focus();
    await page.keyboard.press("Home");
    await screen.until("more rejected", async () => Number.parseFloat(await share()) < 97);
  });
});

describe("teaching", () => {
  it("makes bands from the stretch at the playhead", async () => {
    await screen.press("button", "Teach from this stretch");
    await screen.choose(/These are readings of/, "Amber strip");
    await screen.press("button", "Teach");
    await screen.seeNo("dialog", /./);
    await atServer("bands around coral's hue", (p) =>
      p.ruleSets[0].rules.some((r) => r.target === "amber" && (r.any[0].all[0].from ?? 0) > 340),
    );
  });
});

describe("score, comparing and reasons", () => {
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

  it("says why, and makes the smallest change", async () => {
    await screen.press("radio", "Why");
    await screen.see("region", "Why");
    expect(await textOf('[aria-label="Why"]')).toMatch(/Why Coral tag, at 5\.82 s/);
    await screen.press("button", "Make it so: unknown");
    await screen.until("the reading to be unknown", async () =>
      /^Why unknown/.test(await textOf('[aria-label="Why"]')),
    );
    await screen.press("button", "Undo: reading made unknown");
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

describe("steadying", () => {
  it("says what it costs, and how often the answer changes", async () => {
    const costs = () => textOf('[aria-label="Steadying"]');
    expect(await costs()).toMatch(/arrives 60 ms \(9 mm\)/);
    const before = await textOf('[aria-label="Flicker"]');
    await screen.enter("Readings needed", "1");
    await screen.until("sooner", async () => /arrives 20 ms \(3 mm\)/.test(await costs()));
    await screen.enter("Readings without it", "1");
    await screen.until("another flicker", async () => (await textOf('[aria-label="Flicker"]')) !== before);
    await screen.enter("Speed in cm/s", "30");
    await screen.until("a longer way", async () => /arrives 20 ms \(6 mm\)/.test(await costs()));
  });
});
