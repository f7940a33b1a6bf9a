import { readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Project, ProjectDocument } from "@perceptum/core/project";
import { type Browser, connect, type Page } from "puppeteer-core";
import { afterAll, afterEach, beforeAll, beforeEach, expect, inject } from "vitest";
import { startBrowser } from "./browser";
import { Screen } from "./Screen";
import type { RunningServer } from "./server";

/** What the tests of a file have: a browser, a server, and for each test a fresh page. */
export interface Session {
  page: Page;
  screen: Screen;
  server: Pick<RunningServer, "url">;
  /** The project that was opened last. */
  id: string;
  /** Adds a project at the server and opens a stage of it. */
  open(project: Project | ProjectDocument, stage: string): Promise<void>;
  /** Goes to an address of the program, as by a link within it: its code stays as quick as it has become. */
  goTo(path: string): Promise<void>;
  /** Waits until judgement and findings are of the project as it is shown. */
  upToDate(): Promise<unknown>;
  /** Waits until the project at the server is as asked, so many ms at most. */
  atServer(what: string, ask: (project: ProjectDocument) => boolean, patience?: number): Promise<unknown>;
  /** What the page has complained of; a test that expects complaints takes them out. */
  complaints: string[];
  /** Lets the page complain of something for the rest of a test, since that is what is tested. */
  excuse(pattern: RegExp): void;
  /** The words of the first element that a selector finds; none while there is none. */
  textOf(selector: string): Promise<string>;
}

/** Closes every page but one and empties the browser's stores for an address; the program's parts stay in its cache. */
async function forgetAll(browser: Browser, url: string, kept?: Page): Promise<void> {
  for (const context of browser.browserContexts()) if (context.id !== undefined) await context.close();
  const [first, ...pages] = await browser.pages();
  await Promise.all(pages.filter((page) => page !== kept).map((page) => page.close()));
  const devtools = await (kept ?? (first as Page)).createCDPSession();
  await devtools.send("Storage.clearDataForOrigin", {
    origin: new URL(url).origin,
    storageTypes: kept === undefined ? "local_storage,indexeddb" : "local_storage",
  });
  await devtools.detach();
}

/** Leaves what is shown, so that nothing of it is taken for what comes, and goes to an address. Runs in the page. */
async function goWithin(path: string): Promise<void> {
  const go = (to: string) => {
    history.pushState(null, "", to);
    dispatchEvent(new PopStateEvent("popstate"));
  };
  go("/nothing");
  while (document.querySelector("main h1")?.textContent !== "There is nothing at this address")
    await new Promise(requestAnimationFrame);
  go(path);
}

/** What a file has for itself, because of what it tests. */
export interface Own {
  /** Each test has a page of its own. Otherwise it goes on in the one of the test before, in another project. */
  pages?: boolean;
  /** A browser with some more arguments. */
  browser?: readonly string[];
  /** The server of the next test. */
  server?: () => RunningServer;
}

/** The browser of this worker, which no other one has: a worker that has ended leaves its own to the next. */
function ownBrowser(): string {
  const { pid } = process;
  const isAlive = (holder: number) => {
    try {
      return process.kill(holder, 0);
    } catch {
      return false;
    }
  };
  const isClaimed = (claim: string): boolean => {
    try {
      writeFileSync(claim, String(pid), { flag: "wx" });
      return true;
    } catch {
      const holder = Number(readFileSync(claim, "utf8"));
      if (holder === pid || isAlive(holder)) return holder === pid;
      rmSync(claim, { force: true });
      return isClaimed(claim);
    }
  };
  const found = inject("browsers").find((_, i) => isClaimed(join(inject("claims"), String(i))));
  if (found === undefined) throw new Error("there are more workers than browsers");
  return found;
}

/** The browser of this worker, once it is connected. */
let common: Promise<Browser> | undefined;
const commonBrowser = (): Promise<Browser> => {
  common ??= connect({ browserWSEndpoint: ownBrowser() });
  return common;
};

/** The page of the test before, which goes on in the next one, be it of another file. */
let kept: Screen | undefined;

/** Sets all of it up around the tests of a file, and holds that the page complains of nothing. */
export function useSession({
  browser: more,
  server,
  pages: own = server !== undefined || more !== undefined,
}: Own = {}): Session {
  let browser: Browser;
  const session = {} as Session;
  let excused: RegExp[] = [];
  session.excuse = (pattern) => excused.push(pattern);
  beforeAll(async () => {
    browser = more === undefined ? await commonBrowser() : await startBrowser(more);
    if (!own) return;
    await kept?.page.close();
    kept = undefined;
  });
  afterAll(async () => {
    if (more !== undefined) await browser.close();
  });
  beforeEach(async () => {
    session.server = server?.() ?? { url: inject("server") };
    const screen = (own ? undefined : kept) ?? (await Screen.of(await browser.newPage()));
    const { page } = screen;
    await page.setViewport({ width: 1280, height: 800 });
    const complaints: string[] = [];
    session.complaints = complaints;
    excused = [];
    page.on("pageerror", (error) => complaints.push((error as Error).message));
    page.on("console", (message) => message.type() === "error" && complaints.push(message.text()));
    session.page = page;
    session.screen = screen;
  });
  afterEach(async ({ task }) => {
    const { page, screen } = session;
    // What a test that failed leaves behind is no page for the next one.
    kept = own || task.result?.state === "fail" ? undefined : screen;
    page.removeAllListeners("pageerror").removeAllListeners("console");
    if (kept !== undefined)
      await Promise.all([kept.letGo(), page.emulateMediaFeatures([]), page.emulateCPUThrottling(null)]);
    await forgetAll(browser, session.server.url, kept?.page);
    expect(session.complaints.filter((text) => !excused.some((pattern) => pattern.test(text)))).toEqual([]);
  });
  session.open = async (project, stage) => {
    const added = await fetch(`${session.server.url}/api/projects`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(project),
    });
    ({ id: session.id } = (await added.json()) as { id: string });
    const { page, screen, server } = session;
    const isFresh = !page.url().startsWith(server.url);
    await session.goTo(`/p/${session.id}/${stage}`);
    // Hands are quicker here than what makes edits comes into a fresh page.
    if (isFresh)
      await screen.until("what makes edits", () =>
        page.evaluate(() => performance.getEntriesByName("can be edited").length > 0),
      );
  };
  session.goTo = async (path) => {
    const { page, server } = session;
    if (page.url().startsWith(server.url)) await page.evaluate(goWithin, path);
    else await page.goto(server.url + path);
  };
  session.atServer = (what, ask, patience) =>
    session.screen.until(
      what,
      async () => {
        const answer = await fetch(`${session.server.url}/api/projects/${session.id}`);
        return ask((await answer.json()) as ProjectDocument);
      },
      patience,
    );
  session.upToDate = () =>
    session.screen.until("judgement and findings", () =>
      session.page
        .evaluate(() => document.querySelector('[data-judged="true"][data-advised="true"]') !== null)
        .catch(() => false),
    );
  session.textOf = (selector) =>
    session.page.evaluate((asked) => document.querySelector(asked)?.textContent ?? "", selector);
  return session;
}
