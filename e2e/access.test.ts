import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { glasshouseRound } from "@perceptum/core/demo";
import { beforeEach, describe, expect, it } from "vitest";
import type { Screen } from "./Screen";
import { useSession } from "./session";

const session = useSession();
let screen: Screen;
beforeEach(() => {
  ({ screen } = session);
});

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
const TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];
/** Rows show a code, a name and a number; their names say so in a sentence, which this rule cannot read. */
const UNFIT = { "label-content-name-mismatch": { enabled: false } };

/** What of WCAG 2.2 AA the page breaks as it now stands, each with the places. */
async function violations(): Promise<string[]> {
  await session.page.evaluate(AXE);
  const options = JSON.stringify({ runOnly: TAGS, rules: UNFIT });
  return (await session.page.evaluate(
    `axe.run(document, ${options}).then((r) => r.violations.map((v) => v.id + ": " + v.nodes.map((n) => n.html.slice(0, 160)).join(" | ")))`,
  )) as string[];
}

describe.each(["Light", "Dark"])("in the %s theme nothing of WCAG 2.2 AA is broken", (theme) => {
  it.each(["sense", "decide", "act", "prove", "ship"])("at %s", async (stage) => {
    await session.open(glasshouseRound(), stage);
    await session.page.waitForSelector('[data-judged="true"][data-advised="true"]');
    if (theme === "Dark") await screen.press("button", "Dark theme");
    if (stage === "act") await screen.press("button", /^Coral tag arrives, in Patrol/);
    if (stage === "prove") {
      await screen.press("button", "Run");
      await screen.press("button", "To the end");
    }
    expect(await violations()).toEqual([]);
  });
});

describe("nothing of WCAG 2.2 AA is broken", () => {
  it.each([
    ["sense", "Change Coral tag", "Coral tag"],
    ["sense", "Change sensor", /.*/],
    ["sense", "White and dark", /.*/],
    ["decide", "Suggest rules", /.*/],
    ["decide", "Keyboard shortcuts", "Keys"],
  ])("in a sheet of %s: %s", async (stage, button, title) => {
    await session.open(glasshouseRound(), stage);
    await screen.press("button", button);
    await screen.see("dialog", title);
    expect(await violations()).toEqual([]);
  });

  it.each(["Edit course", "Robot", "Sweep"])("at Prove in %s", async (view) => {
    await session.open(glasshouseRound(), "prove");
    await screen.press("radio", view);
    await session.page.waitForSelector('[data-judged="true"]');
    expect(await violations()).toEqual([]);
  });

  it("in the list of projects", async () => {
    await session.page.goto(`${session.server.url}/?list`);
    await screen.see("heading", "Projects");
    expect(await violations()).toEqual([]);
  });
});
