import { join } from "node:path";
import { bedWatch, glasshouseRound } from "@perceptum/core/demo";
import { type Project, readProject } from "@perceptum/core/project";
import Sqlite from "better-sqlite3";
import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { packFrame } from "../demo/packFrame";
import type { Screen } from "./Screen";
import { type RunningServer, startServer } from "./server";
import { useSession } from "./session";

// Its database is looked into, and damaged.
let own: RunningServer;
beforeAll(async () => {
  own = await startServer();
});
afterAll(() => own.stop());
const session = useSession({ server: () => own });
const watch = bedWatch(packFrame);
let screen: Screen;
let page: Page;
beforeEach(() => {
  ({ screen, page } = session);
});

/** A saved text, read back; the names of copies tell where they come from. */
function readBack(text: string): Project {
  const read = readProject(text);
  if ("problem" in read) throw new Error(`${read.problem.place}: ${read.problem.message}`);
  return read.project;
}
const named = (name: string): Project => ({ ...watch, name });
const api = (path = "") => `${session.server.url}/api/projects${path}`;
const fileOf = async (id: string) => readBack(await (await fetch(api(`/${id}/file`))).text());
/** The project that the page has gone on to. */
const openedAs = async (name: string) => {
  await screen.until(`the name ${name}`, async () => (await screen.valueOf("textbox", "Project name")) === name);
  return new URL(page.url()).pathname.split("/")[2];
};
/** Reads the file that the page hands to the browser once a button is pressed. */
async function savedBy(button: string): Promise<Project> {
  await page.evaluate(() => {
    const make = URL.createObjectURL;
    URL.createObjectURL = (blob) => {
      void (blob as Blob).text().then((text) => Object.assign(window, { handedOver: text }));
      return make.call(URL, blob);
    };
  });
  await screen.press("button", button);
  const text = await screen.until("the file", () =>
    page.evaluate(() => (window as unknown as { handedOver?: string }).handedOver),
  );
  return readBack(text);
}
/** Answers the next changes of the project as a server that does not take them. */
async function refuse(status: number): Promise<void> {
  await page.setRequestInterception(true);
  page.on("request", (request) =>
    request.method() === "PUT" && request.url().endsWith(session.id)
      ? void request.respond({
          status,
          contentType: "application/problem+json",
          body: JSON.stringify({ detail: "no" }),
        })
      : void request.continue(),
  );
}

describe("a camera project is whole, with its readings and frames,", () => {
  it("as a file saved on Ship", async () => {
    await session.open(watch, "ship");
    expect(await savedBy("Save the project file")).toEqual(watch);
  });

  it("as a file saved because the server refuses a change", async () => {
    await session.open(watch, "sense");
    await refuse(422);
    await screen.enter("Project name", "Refused");
    await screen.see("dialog", "This change cannot be saved");
    expect(await savedBy("Save as a file")).toEqual(named("Refused"));
    session.complaints.length = 0;
  });

  it("as the copy that keeps both of two versions", async () => {
    await session.open(watch, "sense");
    await refuse(412);
    await screen.enter("Project name", "Mine");
    await screen.press("button", "Keep both");
    expect(await fileOf(await openedAs("Mine (copy)"))).toEqual(named("Mine (copy)"));
    session.complaints.length = 0;
  });

  it("as a new project, after it was deleted elsewhere", async () => {
    await session.open(watch, "sense");
    await fetch(api(`/${session.id}`), { method: "DELETE" });
    await screen.enter("Project name", "Deleted");
    await screen.press("button", "Keep it as a new project");
    expect(await fileOf(await openedAs("Deleted (kept)"))).toEqual(named("Deleted (kept)"));
    session.complaints.length = 0;
  });

  it("as a new project, from changes that only this browser keeps", async () => {
    await session.open(watch, "sense");
    await refuse(503);
    await screen.enter("Project name", "Unsent");
    await screen.see("status", "Project not saved");
    await fetch(api(`/${session.id}`), { method: "DELETE" });
    const context = page.browserContext();
    await page.close({ runBeforeUnload: false });
    page = await context.newPage();
    screen = await (screen.constructor as typeof Screen).of(page);
    await page.goto(`${session.server.url}/?list`);
    await screen.press("button", "Restore as a new project");
    expect(await fileOf(await openedAs("Unsent"))).toEqual(named("Unsent"));
    session.complaints.length = 0;
  });

  it("as a copy made in the list", async () => {
    await session.open(watch, "sense");
    await page.goto(`${session.server.url}/?list`);
    const before = (await (await fetch(api())).json()) as unknown[];
    await screen.press("button", /^Copy Bed watch/);
    const [copy] = await screen.until("the copy", async () => {
      const now = (await (await fetch(api())).json()) as { id: string }[];
      return now.length > before.length && now;
    });
    expect(await fileOf(copy.id)).toEqual(named("Bed watch, copy"));
  });
});

describe("a project with a tape that is damaged in the database", () => {
  it("says which, opens with all else, and is saved without it", async () => {
    const round = glasshouseRound();
    const [walk, other] = round.tapes;
    // Readings of their own: equal ones are kept once for all projects.
    walk.readings.channels.r = walk.readings.channels.r?.map((v, i) => (i === 0 ? v + 1 : v)) ?? [];
    await session.open(round, "sense");
    const raw = new Sqlite(join(own.data, "perceptum.sqlite"));
    const of = `"digest" = (SELECT "digest" FROM "tape" WHERE "project" = ? AND "tape" = ?)`;
    const { bytes } = raw.prepare(`SELECT "bytes" FROM "readings_part" WHERE ${of}`).get(session.id, walk.id) as {
      bytes: Buffer;
    };
    bytes[100] ^= 0x40;
    raw.prepare(`UPDATE "readings_part" SET "bytes" = ? WHERE ${of}`).run(bytes, session.id, walk.id);
    raw.close();

    await page.reload();
    await screen.until("the notice", async () =>
      (await session.textOf('[aria-label="Notice"]')).startsWith(`“${walk.name}” is shown without readings`),
    );
    session.complaints.length = 0; // the browser tells of the answer 503
    await screen.press("button", "OK");
    const tapes = () => session.textOf('[aria-label="Tapes"]');
    await screen.choose(/Tape to look at/, walk.name);
    expect(await tapes()).toContain("damaged in the database, and no backup has them whole");
    await screen.choose(/Tape to look at/, other.name);
    expect(await tapes()).toContain(`${other.readings.t.length} readings of`);
    for (const stage of ["Decide", "Act", "Prove", "Ship"]) await screen.press("link", new RegExp(`^${stage},`));
    expect(await savedBy("Save the project file")).toEqual({ ...round, tapes: round.tapes.slice(1) });
  });
});
