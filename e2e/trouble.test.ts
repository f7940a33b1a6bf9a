import { glasshouseRound } from "@perceptum/core/demo";
import { beforeEach, describe, expect, it } from "vitest";
import { useSession } from "./session";

const session = useSession({ pages: true });
const { textOf } = session;
let { page, screen } = session;
beforeEach(() => {
  ({ page, screen } = session);
});

describe("when something fails", () => {
  it("a part that cannot be fetched says so, and comes when it is asked for again", async () => {
    await session.open(glasshouseRound(), "decide");
    await screen.see("button", "Suggest rules");
    let reachable = false;
    await page.setRequestInterception(true);
    page.on("request", (request) => {
      if (!reachable && request.url().includes("ActStage")) void request.abort();
      else void request.continue();
    });
    await screen.press("link", /^Act/);
    await screen.see("alert", /^/);
    expect(await textOf("[role=alert]")).toContain("could not be fetched");
    expect(session.complaints.splice(0).join()).toContain("ERR_FAILED");
    // All that is there already goes on working.
    await screen.press("link", /^Decide/);
    await screen.see("button", "Suggest rules");
    await screen.press("link", /^Act/);
    await screen.see("button", "Load the page again");
    session.complaints.length = 0;
    reachable = true;
    await screen.press("button", "Load the page again");
    await screen.see("button", "Add mode");
  });

  it("a part that breaks says so in its place, the rest goes on, and it can be shown again", async () => {
    const project = glasshouseRound();
    const modes = project.behaviour.modes.length;
    await session.open(project, "act");
    await screen.see("button", "Add mode");
    await page.evaluate(`{
      const { prototype } = CanvasRenderingContext2D;
      globalThis.drawn = prototype.fillText;
      prototype.fillText = () => { throw new Error("no ink left"); };
    }`);
    // The tape is drawn anew, and fails.
    await page.setViewport({ width: 1270, height: 790 });
    await screen.until("what failed", async () => /The tape cannot be shown: no ink left\./.test(await textOf("body")));
    expect(session.complaints.splice(0).join()).toContain("no ink left");
    await screen.press("button", "Add mode");
    await session.atServer("the mode", (p) => p.behaviour.modes.length === modes + 1);
    session.complaints.length = 0;
    await page.evaluate("CanvasRenderingContext2D.prototype.fillText = globalThis.drawn");
    await screen.press("button", "Show it again");
    await screen.see("button", "Play");
    await screen.seeNo("button", "Show it again");
  });

  it("the page says what is kept and how to go on, and goes on", async () => {
    await session.open(glasshouseRound(), "sense");
    await screen.see("button", "Add target");
    // The frame of the page itself fails when it is drawn anew.
    await page.evaluate("Object.defineProperty(document, 'title', { set() { throw new Error('no ink left'); } })");
    await screen.enter("Project name", "Another round");
    await screen.see("heading", "Something went wrong");
    expect(await textOf("main")).toMatch(/no ink left\. ?What you changed is kept/);
    expect(session.complaints.splice(0).join()).toContain("no ink left");
    await screen.press("button", "Load the page again");
    await screen.see("button", "Add target");
  });

  it("a project and a list that do not come say why in the program's own words", async () => {
    await session.open(glasshouseRound(), "decide");
    await screen.see("button", "Suggest rules");
    let reachable = false;
    await page.setRequestInterception(true);
    page.on("request", (request) => {
      if (!reachable && request.url().includes("/api/projects")) void request.abort();
      else void request.continue();
    });
    await page.reload();
    await screen.see("heading", "This project cannot be opened");
    expect(await textOf("main")).toContain("the server cannot be reached.");
    await screen.press("link", "Go to the projects");
    await screen.until("the sentence", async () => /The server cannot be reached\. Start/.test(await textOf("main")));
    expect(session.complaints.splice(0).join()).toContain("ERR_FAILED");
    reachable = true;
  });
});
