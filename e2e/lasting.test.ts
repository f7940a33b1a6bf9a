import { rmSync } from "node:fs";
import { glasshouseRound } from "@perceptum/core/demo";
import { emptyProject, joinReadings, type Project, type ProjectDocument } from "@perceptum/core/project";
import type { Page } from "puppeteer-core";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { startBrowser } from "./browser";
import { endBy } from "./faults";
import { Screen } from "./Screen";
import { freshFolder, type RunningServer, startServer } from "./server";
import { useSession } from "./session";

let data: string;
let server: RunningServer;
let page: Page;
let screen: Screen;
let id: string;

beforeAll(async () => {
  data = freshFolder();
  server = await startServer({ data });
});
// A test that failed must not leave it standing.
afterEach(() => void server.process.kill("SIGCONT"));
afterAll(async () => {
  await server.stop();
  rmSync(data, { recursive: true, force: true });
});
const session = useSession({ server: () => server });
beforeEach(async () => {
  // Servers go, and refuse.
  session.excuse(/^Failed to load resource/);
  ({ page, screen } = session);
  id = await add(plain("Plain"));
});

/** A project with a sensor and nothing else: what these tests are about does not hang on what is in it. */
const plain = (name: string) => joinReadings(emptyProject(name), new Map());

async function add(project: Project): Promise<string> {
  const added = await fetch(`${server.url}/api/projects`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(project),
  });
  return ((await added.json()) as { id: string }).id;
}
const open = async (stage = "sense", project = id) => {
  await page.goto(`${server.url}/p/${project}/${stage}`);
  await screen.see("textbox", "Project name");
  // The table of edits comes after the first screen: a server that hangs before that keeps it.
  await page.waitForFunction(() => performance.getEntriesByName("can be edited").length > 0);
};
async function atServer(project = id): Promise<{ document: ProjectDocument; revision: number }> {
  const response = await fetch(`${server.url}/api/projects/${project}`);
  const document = (await response.json()) as ProjectDocument;
  return { document, revision: Number(response.headers.get("ETag")?.replace(/\W/g, "")) };
}
const nameAtServer = (name: string, project = id) =>
  screen.until(`${name} at the server`, async () => (await atServer(project)).document.name === name);
/** Changes the project as somebody else does. */
async function changeElsewhere(name: string): Promise<void> {
  const { document, revision } = await atServer();
  const response = await fetch(`${server.url}/api/projects/${id}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json", "If-Match": `"${revision}"` },
    body: JSON.stringify({ ...document, name }),
  });
  expect(response.status).toBe(200);
}
const rename = (name: string) => screen.enter("Project name", name);
const shownName = (name: string) =>
  screen.until(`the name ${name}`, async () => (await screen.valueOf("textbox", "Project name")) === name);
const saved = () => screen.see("status", "Project saved");
/** A request that is not answered is given up after ten seconds, and told then. */
const notAnswering = () =>
  screen.until("that the server does not answer", async () =>
    (await page.$eval("[role=status][aria-label^=Project]", (e) => e.getAttribute("title") ?? "")).includes(
      "The server does not answer. Your changes are kept in this browser",
    ),
  );
/** Starts the server anew on the same data and at the same address. */
async function restart(): Promise<void> {
  server = await startServer({ data, port: Number(new URL(server.url).port) });
}

describe("leaving within a moment of an edit", () => {
  it("by the link to all projects keeps it", async () => {
    await open();
    await rename("Left at once");
    await page.evaluate(() => document.querySelector<HTMLAnchorElement>("header a")?.click());
    await screen.see("heading", "Projects");
    await nameAtServer("Left at once");
  });

  it("by loading the page anew keeps it", async () => {
    await open();
    await rename("Loaded anew");
    await page.reload();
    await nameAtServer("Loaded anew");
    await shownName("Loaded anew");
  });

  it("for another project keeps it, and the other one is saved as well", async () => {
    const other = await add(plain("Other"));
    await open();
    await rename("Left for another");
    await page.evaluate((to) => {
      history.pushState({}, "", to);
      dispatchEvent(new PopStateEvent("popstate"));
    }, `/p/${other}/sense`);
    await shownName("Other");
    await rename("Other, too");
    await saved();
    await nameAtServer("Left for another");
    await nameAtServer("Other, too", other);
  });

  it("while something is being recorded keeps the recording", async () => {
    await open();
    await screen.press("radio", "Bench");
    await screen.press("button", "● Record");
    await screen.until(
      "some readings",
      async () =>
        / · [1-9]\d/.test((await screen.names("timer"))[0] ?? "") ||
        (await page.$eval("[role=timer]", (e) => Number(/· (\d+)/.exec(e.textContent ?? "")?.[1] ?? 0))) > 10,
    );
    await page.evaluate(() => document.querySelector<HTMLAnchorElement>("header a")?.click());
    await screen.see("heading", "Projects");
    await screen.until("the tape at the server", async () => (await atServer()).document.tapes.length === 1);
  });
});

describe("a server that hangs under edits", () => {
  it("and is started anew gets all of them", async () => {
    await open();
    await rename("Before");
    await saved();
    server.process.kill("SIGSTOP");
    await rename("While it hangs");
    await screen.see("status", "Project saving");
    await rename("While it hangs still");
    await endBy(server, "SIGKILL");
    await restart();
    await nameAtServer("While it hangs still");
    await saved();
  });

  it("and goes on later gets them without a conflict with itself; where they are is said meanwhile", async () => {
    await open();
    server.process.kill("SIGSTOP");
    await rename("While it hangs");
    await notAnswering();
    await rename("While it hangs still");
    server.process.kill("SIGCONT");
    await nameAtServer("While it hangs still");
    await saved();
    expect(await screen.names("dialog")).toEqual([]);
  });

  it("and a page that is closed meanwhile: the next visit offers them", async () => {
    await open();
    server.process.kill("SIGSTOP");
    await rename("Only in the browser");
    await screen.see("status", "Project saving");
    const context = page.browserContext();
    await page.close({ runBeforeUnload: false });
    await endBy(server, "SIGKILL");
    await restart();
    page = await context.newPage();
    screen = await Screen.of(page);
    // The sheet hides all else from a screen reader.
    await page.goto(`${server.url}/p/${id}/sense`);
    await screen.see("dialog", "Unsent changes");
    await screen.press("button", "Restore");
    await shownName("Only in the browser");
    await nameAtServer("Only in the browser");
    await page.reload();
    await shownName("Only in the browser");
    expect(await screen.names("dialog")).toEqual([]);
  });
});

describe("a recording that ends while the server is away", () => {
  it("is a tape at once, stays over a reload of the page and is sent later", async () => {
    await open();
    await screen.press("radio", "Bench");
    await screen.press("button", "● Record");
    await endBy(server, "SIGKILL");
    await screen.until("some readings", async () =>
      page.$eval("[role=timer]", (e) => Number(/· (\d+)/.exec(e.textContent ?? "")?.[1] ?? 0) > 20),
    );
    await screen.press("button", "■ Stop and keep");
    await screen.until("the tape", async () =>
      (await screen.valueOf("textbox", "Name of the tape")).startsWith("Belly"),
    );
    await screen.see("status", "Project not saved");
    await restart();
    await saved();
    const { document } = await atServer();
    const tape = document.tapes.at(-1);
    const readings = await fetch(`${server.url}/api/projects/${id}/tapes/${tape?.id}/readings.csv`);
    expect((await readings.text()).trim().split("\n").length).toBeGreaterThan(20);
  });
});

describe("a recording under way", () => {
  const recorded = () => page.$eval("[role=timer]", (e) => Number(/· (\d+)/.exec(e.textContent ?? "")?.[1] ?? 0));
  /** Counts the parts that the browser keeps of it. */
  const kept = () =>
    page.evaluate(
      () =>
        new Promise<number>((done, fail) => {
          const opening = indexedDB.open("perceptum");
          opening.onerror = () => fail(opening.error);
          opening.onsuccess = () => {
            const all = opening.result.transaction("recordings").objectStore("recordings").count();
            all.onsuccess = () => {
              opening.result.close();
              done(all.result);
            };
          };
        }),
    );
  /** Records until the browser has kept so many parts. */
  const begin = async (parts: number) => {
    await open();
    await screen.press("radio", "Bench");
    await screen.press("button", "● Record");
    await screen.until("parts in the browser", async () => (await kept()) >= parts);
    return recorded();
  };
  const tapeAtServer = (count: number) =>
    screen.until("the tape at the server", async () => {
      const { document } = await atServer();
      const [tape] = document.tapes;
      if (tape === undefined) return false;
      const csv = await (await fetch(`${server.url}/api/projects/${id}/tapes/${tape.id}/readings.csv`)).text();
      return csv.trim().split("\n").length > count;
    });

  it("is asked about before the page is loaded anew, and is not lost by it", async () => {
    const count = await begin(1);
    const asked: string[] = [];
    page.on("dialog", (dialog) => {
      asked.push(dialog.type());
      void dialog.accept();
    });
    await page.reload();
    expect(asked).toEqual(["beforeunload"]);
    await screen.until("the tape, or what is kept of it", async () => {
      if ((await atServer()).document.tapes.length === 1) return true;
      if ((await screen.names("dialog", "A recording was not ended")).length === 0) return false;
      await screen.press("button", "Keep as a tape");
      return true;
    });
    await tapeAtServer(count / 2);
    await screen.until("nothing kept any more", async () => (await kept()) === 0);
  });

  it("is offered at the next visit where its page was killed", async () => {
    const count = await begin(2);
    const context = page.browserContext();
    await page.close({ runBeforeUnload: false });
    page = await context.newPage();
    screen = await Screen.of(page);
    await page.goto(`${server.url}/p/${id}/sense`);
    await screen.see("dialog", "A recording was not ended");
    expect(await page.$eval("[role=dialog]", (e) => e.textContent)).toMatch(/has kept \d+ readings of Belly sensor/);
    await screen.press("button", "Keep as a tape");
    await tapeAtServer(count / 2);
    await page.reload();
    await screen.see("textbox", "Project name");
    expect(await screen.names("dialog")).toEqual([]);
  });
});

describe("a browser that is killed", () => {
  it("has kept what its page says is kept, and offers it at the next visit", async () => {
    const profile = freshFolder();
    const own = await startBrowser([`--user-data-dir=${profile}`]);
    page = await own.newPage();
    screen = await Screen.of(page);
    await open();
    await page.setRequestInterception(true);
    page.on("request", (request) => void (request.method() === "PUT" ? request.abort() : request.continue()));
    const killed = new Promise<void>((done) => {
      void page.exposeFunction("isKept", () => {
        own.process()?.kill("SIGKILL");
        done();
      });
    });
    await page.evaluate(() => {
      const { put } = IDBObjectStore.prototype;
      IDBObjectStore.prototype.put = function (this: IDBObjectStore, value: unknown) {
        const tell = () => (window as unknown as { isKept(): void }).isKept();
        if (this.name === "unsent") this.transaction.addEventListener("complete", tell);
        return put.call(this, value);
      };
    });
    await screen.enter("Project name", "Before the kill").catch(() => undefined);
    await killed;
    const again = await startBrowser([`--user-data-dir=${profile}`]);
    page = await again.newPage();
    screen = await Screen.of(page);
    await page.goto(`${server.url}/p/${id}/sense`);
    await screen.see("dialog", "Unsent changes");
    await screen.press("button", "Restore");
    await nameAtServer("Before the kill");
    await again.close();
    rmSync(profile, { recursive: true, force: true });
  });
});

describe("two windows", () => {
  it("that record under one name keep both recordings", async () => {
    const second = await (await page.browser().createBrowserContext()).newPage();
    await second.goto(`${server.url}/p/${id}/sense`);
    const there = await Screen.of(second);
    await open();
    for (const [own, window] of [
      [screen, page],
      [there, second],
    ] as const) {
      await own.press("radio", "Bench");
      await own.press("button", "● Record");
      await own.until("some readings", async () =>
        window.$eval("[role=timer]", (e) => Number(/· (\d+)/.exec(e.textContent ?? "")?.[1] ?? 0) > 15),
      );
      await own.press("button", "■ Stop and keep");
    }
    await saved();
    await there.see("dialog", "Changed in two places");
    await there.press("button", "Keep both");
    await there.until("the copy", async () => (await there.valueOf("textbox", "Project name")).endsWith("(copy)"));
    const copy = new URL(second.url()).pathname.split("/")[2];
    const [mine, theirs] = [(await atServer()).document.tapes.at(-1), (await atServer(copy)).document.tapes.at(-1)];
    expect(mine?.name).toBe(theirs?.name);
    expect(mine?.id).not.toBe(theirs?.id);
  });

  const torn = async () => {
    await open();
    await changeElsewhere("Elsewhere");
    await rename("Here");
    await screen.see("dialog", "Changed in two places");
  };

  it("that change one project: the saved version can be used", async () => {
    await torn();
    await screen.press("button", "Use the saved one");
    await shownName("Elsewhere");
    await saved();
    expect((await atServer()).document.name).toBe("Elsewhere");
  });

  it("that change one project: the own version can overwrite it", async () => {
    await torn();
    await screen.press("button", "Overwrite with mine");
    await nameAtServer("Here");
    await saved();
  });

  it("that change one project: both can be kept", async () => {
    await torn();
    await screen.press("button", "Keep both");
    await shownName("Here (copy)");
    expect((await atServer()).document.name).toBe("Elsewhere");
    const copy = new URL(page.url()).pathname.split("/")[2];
    expect((await atServer(copy)).document.sensors).toEqual((await atServer()).document.sensors);
  });
});

describe("unsent work", () => {
  it("of an earlier visit is not put over what was saved since: the person chooses", async () => {
    await open();
    await endBy(server, "SIGKILL");
    await rename("From yesterday");
    await screen.see("status", "Project not saved");
    const context = page.browserContext();
    await page.close({ runBeforeUnload: false });
    await restart();
    await changeElsewhere("Saved since");
    page = await context.newPage();
    screen = await Screen.of(page);
    await page.goto(`${server.url}/p/${id}/sense`);
    await screen.press("button", "Restore");
    await screen.see("dialog", "Changed in two places");
    expect((await atServer()).document.name).toBe("Saved since");
    await screen.press("button", "Overwrite with mine");
    await nameAtServer("From yesterday");
  });

  it("of a project that was deleted comes back as a new one", async () => {
    await open();
    await fetch(`${server.url}/api/projects/${id}`, { method: "DELETE" });
    await rename("Deleted elsewhere");
    await screen.see("dialog", "This project was deleted");
    await screen.press("button", "Keep it as a new project");
    await shownName("Deleted elsewhere (kept)");
    await screen.see("button", "Play");
  });
});

describe("a project that was deleted while its changes lay in this browser", () => {
  it("comes back from the list, and stays there as long as it cannot be added", async () => {
    await open();
    server.process.kill("SIGSTOP");
    await rename("Never sent");
    await screen.see("status", "Project saving");
    const context = page.browserContext();
    await page.close({ runBeforeUnload: false });
    await endBy(server, "SIGKILL");
    await restart();
    await fetch(`${server.url}/api/projects/${id}`, { method: "DELETE" });
    page = await context.newPage();
    screen = await Screen.of(page);
    await page.goto(`${server.url}/?list`);
    await screen.see("button", "Restore as a new project");
    const words = await page.evaluate(() => document.body.textContent);
    expect(words).toMatch(/“Never sent” was deleted/);
    expect(words).not.toContain("without");
    await endBy(server, "SIGKILL");
    await screen.press("button", "Restore as a new project");
    await screen.see("alert", /^/);
    await screen.see("button", "Restore as a new project");
    await restart();
    await screen.press("button", "Restore as a new project");
    await shownName("Never sent");
    await page.goto(`${server.url}/?list`);
    await screen.see("link", "Never sent");
    expect(await screen.names("button", "Restore as a new project")).toEqual([]);
  });
});

describe("a change that is refused", () => {
  it("is said with its place, and can be taken back", async () => {
    await open();
    await page.setRequestInterception(true);
    page.on("request", (request) =>
      request.method() === "PUT" && request.url().endsWith(id)
        ? void request.respond({
            status: 422,
            contentType: "application/problem+json",
            body: JSON.stringify({
              type: "about:blank",
              title: "Not valid",
              status: 422,
              detail: "sensors[0].name: a name is needed",
            }),
          })
        : void request.continue(),
    );
    await rename("Refused");
    await screen.see("dialog", "This change cannot be saved");
    expect(await page.$eval("[role=dialog]", (e) => e.textContent)).toContain("a name is needed");
    await screen.press("button", "Undo to the last saved state");
    await shownName("Plain");
    await saved();
  });
});

describe("a worker that dies", () => {
  beforeEach(async () => {
    id = await add(glasshouseRound());
  });

  it("is made anew and said, and what it was asked for comes", async () => {
    await open("decide");
    await screen.see("status", "Share judged rightly");
    const judge = page.workers().find((worker) => worker.url().includes("judge"));
    await judge?.evaluate("setTimeout(() => { throw new Error('no more memory'); })");
    await screen.see("status", "Notice");
    expect(await page.$eval("[aria-label=Notice]", (e) => e.textContent)).toContain("started anew");
    await screen.enter("Coral tag, lower value bound", "55");
    await screen.until("a new judgement", async () =>
      (await page.$eval("[aria-label='Share judged rightly']", (e) => e.textContent))?.includes("100"),
    );
  });
});

describe("leaving for another project", () => {
  /** Goes to another project without loading the page anew. */
  const go = async (to: string) => {
    await page.evaluate((path) => {
      history.pushState({}, "", path);
      dispatchEvent(new PopStateEvent("popstate"));
    }, `/p/${to}/prove`);
  };
  let empty: string;
  beforeEach(async () => {
    id = await add(glasshouseRound());
    empty = await add(plain("Empty"));
  });

  it("while it runs or sweeps shows nothing of the one in the other", async () => {
    await open("prove");
    await screen.press("radio", "Sweep");
    await screen.press("button", /^Sweep/);
    await screen.see("progressbar", "Sweep");
    await go(empty);
    await shownName("Empty");
    await screen.press("radio", "Sweep");
    await screen.see("button", /^Sweep/);
    expect(await screen.names("status", "Share that holds")).toEqual([]);
    await screen.press("radio", "One run");
    await screen.press("button", "Run");
    await go(id);
    await shownName("Glasshouse round");
    await screen.until("the new project judged", async () =>
      page.$eval("[data-judged]", (e) => (e as HTMLElement).dataset.judged === "true"),
    );
    expect(await screen.names("button", /^(holds|fails|not reached):/)).toEqual([]);
  });

  it("while it loads or suggests stores nothing of the one in the other", async () => {
    await open("decide");
    await screen.press("button", "Suggest rules");
    await screen.see("dialog", /^Suggested/);
    await page.goto(`${server.url}/p/${id}/decide`);
    // Left before it could be opened.
    await page.evaluate((path) => {
      history.pushState({}, "", path);
      dispatchEvent(new PopStateEvent("popstate"));
    }, `/p/${empty}/decide`);
    await shownName("Empty");
    await rename("Still empty");
    await nameAtServer("Still empty", empty);
    const { document } = await atServer(empty);
    expect([document.tapes.length, document.ruleSets[0].rules.length, document.name]).toEqual([0, 0, "Still empty"]);
  });
});
