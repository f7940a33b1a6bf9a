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
  /** Waits until the project at the server is as asked, so many ms at most. */
  atServer(what: string, ask: (project: ProjectDocument) => boolean, patience?: number): Promise<unknown>;
  /** What the page has complained of; a test that expects complaints takes them out. */
  complaints: string[];
  /** Lets the page complain of something for the rest of a test, since that is what is tested. */
  excuse(pattern: RegExp): void;
  /** The words of the first element that a selector finds; none while there is none. */
  textOf(selector: string): Promise<string>;
}

/** Closes every page and empties the browser's stores for an address; the program's parts stay in its cache. */
async function forgetAll(browser: Browser, url: string): Promise<void> {
  for (const context of browser.browserContexts()) if (context.id !== undefined) await context.close();
  const [first, ...pages] = await browser.pages();
  await Promise.all(pages.map((page) => page.close()));
  const devtools = await (first as Page).createCDPSession();
  await devtools.send("Storage.clearDataForOrigin", {
    origin: new URL(url).origin,
    storageTypes: "local_storage,indexeddb",
  });
  await devtools.detach();
}

/** What a file has for itself, because of what it tests: a browser with some more arguments, or a server. */
export interface Own {
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

/** Sets all of it up around the tests of a file, and holds that the page complains of nothing. */
export function useSession({ browser: more, server }: Own = {}): Session {
  let browser: Browser;
  const session = {} as Session;
  let excused: RegExp[] = [];
  session.excuse = (pattern) => excused.push(pattern);
  beforeAll(async () => {
    browser = more === undefined ? await connect({ browserWSEndpoint: ownBrowser() }) : await startBrowser(more);
  });
  afterAll(() => (more === undefined ? browser.disconnect() : browser.close()));
  beforeEach(async () => {
    session.server = server?.() ?? { url: inject("server") };
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    const complaints: string[] = [];
    session.complaints = complaints;
    excused = [];
    page.on("pageerror", (error) => complaints.push((error as Error).message));
    page.on("console", (message) => message.type() === "error" && complaints.push(message.text()));
    session.page = page;
    session.screen = await Screen.of(page);
  });
  afterEach(async () => {
    await forgetAll(browser, session.server.url);
    expect(session.complaints.filter((text) => !excused.some((pattern) => pattern.test(text)))).toEqual([]);
  });
  session.open = async (project, stage) => {
    const added = await fetch(`${session.server.url}/api/projects`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(project),
    });
    ({ id: session.id } = (await added.json()) as { id: string });
    await session.page.goto(`${session.server.url}/p/${session.id}/${stage}`);
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
  session.textOf = (selector) =>
    session.page.evaluate((asked) => document.querySelector(asked)?.textContent ?? "", selector);
  return session;
}
