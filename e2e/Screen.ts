import type { ElementHandle, Page } from "puppeteer-core";
import { findByRole, type Name, named } from "../web/testing/roles";

export type { Name };

/** The longest wait for what must come, in ms: other work may hold a machine up. */
const PATIENCE = 30_000;

/** How soon to ask again where the page does not change, in ms: what is waited for may lie elsewhere. */
const ASK_AGAIN = 100;

/** A place in the window, in px. */
export interface Place {
  x: number;
  y: number;
}

/**
 * Brings an element into sight and tells where it is; undefined where it cannot be pressed now: it is off, it moves, a
 * pointer would miss it. With `watch` it notes whether the pointer goes down and up on it. Runs in the page.
 */
async function placeOf(e: HTMLElement, watch: boolean): Promise<Place | undefined> {
  if ((e as HTMLButtonElement).disabled || e.getAttribute("aria-disabled") === "true") return undefined;
  (e as HTMLElement & { scrollIntoViewIfNeeded(): void }).scrollIntoViewIfNeeded();
  const { x, y } = e.getBoundingClientRect();
  await new Promise(requestAnimationFrame);
  const now = e.getBoundingClientRect();
  if (!e.isConnected || now.x !== x || now.y !== y) return undefined;
  const box = [...e.getClientRects()].find(({ width, height }) => width > 0 && height > 0);
  if (box === undefined) return undefined;
  if (watch) {
    const watched = { e, landed: 0, x, y };
    Object.assign(window, { watched });
    for (const type of ["pointerdown", "pointerup"])
      e.addEventListener(type, () => watched.landed++, { capture: true, once: true });
  }
  const middle = (from: number, to: number, most: number) => (Math.max(from, 0) + Math.min(to, most)) / 2;
  return { x: middle(box.left, box.right, innerWidth), y: middle(box.top, box.bottom, innerHeight) };
}

/** Says why an element cannot be pressed: where it is, what lies over it. Runs in the page. */
function stateOf(e: HTMLElement): string {
  const { x, y, width, height } = e.getBoundingClientRect();
  const over = document.elementFromPoint(x + width / 2, y + height / 2);
  const off = (e as HTMLButtonElement).disabled || e.getAttribute("aria-disabled") === "true" ? "off, " : "";
  const cover = over === null || e.contains(over) ? "" : `, under ${over.outerHTML.slice(0, 200)}`;
  return `${off}it is at ${x}, ${y}, ${width} × ${height}${cover}`;
}

/** The outcome of a press: it landed on the element; that was drawn anew under it; it went elsewhere, since that had moved. */
type Landed = "there" | "broken" | "elsewhere";

/** Tells what came of the last press, of the element that was watched. */
const landed = (page: Page): Promise<Landed> =>
  page
    .evaluate((): Landed => {
      const { watched } = window as unknown as { watched?: { e: Element; landed: number; x: number; y: number } };
      if (watched === undefined || watched.landed === 2) return "there";
      if (watched.landed === 1 && !watched.e.isConnected) return "broken";
      // The pointer went down on it and not up: what it opened lies over it; or it moved away, which is no press.
      const { x, y } = watched.e.getBoundingClientRect();
      const opened =
        watched.e.getAttribute("aria-expanded") === "true" || watched.e.closest("[inert], [aria-hidden=true]");
      return watched.landed === 1 && (opened || (x === watched.x && y === watched.y)) ? "there" : "elsewhere";
    })
    .catch(() => "there"); // the page went on to another one

/** The script that each page begins with. What runs TypeScript as it is may name functions by a helper that the page does not have. */
const TAUGHT = `globalThis.__name ??= (f) => f; (${findByRole})();`;

/** The page as who listens to it is told of it: everything is found by role and name. */
export class Screen {
  /** The page's next change, while it is waited for. */
  private change: Promise<void> | undefined;
  /** The elements that were given. */
  private readonly found: ElementHandle<Element>[] = [];

  private constructor(readonly page: Page) {}

  static async of(page: Page): Promise<Screen> {
    await page.evaluateOnNewDocument(TAUGHT);
    await page.evaluate(TAUGHT);
    return new Screen(page);
  }

  /** Has the page do something with the first element of a role and name; undefined while there is none, or the page goes. */
  private async inPage<R, Args extends readonly unknown[]>(
    role: string,
    name: Name,
    run: (e: HTMLElement, ...args: Args) => R,
    ...args: Args
  ): Promise<Awaited<R> | undefined> {
    try {
      return (await this.page.evaluate(
        `(async () => {
          const [e] = byRole(${JSON.stringify(role)}, ${JSON.stringify(named(name))});
          return e === undefined ? undefined : (${run})(e, ...${JSON.stringify(args)});
        })()`,
      )) as Awaited<R> | undefined;
    } catch (error) {
      if (error instanceof Error && /RangeError|SyntaxError|TypeError/.test(error.message)) throw error;
      return undefined;
    }
  }

  /** Where something can be pressed now, in sight and at rest; undefined while it cannot. */
  private async place(role: string, name: Name, watch = false): Promise<Place | undefined> {
    return this.inPage(role, name, placeOf, watch);
  }

  /** Waits until something can be pressed; gives where. */
  ready(role: string, name: Name): Promise<Place> {
    return this.until(`${role} ${name} to be ready`, () => this.place(role, name));
  }

  /** Waits until `ask` gives something, so many ms at most. @throws Error that says what was awaited, and `why` in vain */
  async until<T>(
    what: string,
    ask: () => Promise<T | undefined | false>,
    patience = PATIENCE,
    why?: () => Promise<string>,
  ): Promise<T> {
    const end = Date.now() + patience;
    for (;;) {
      const found = await ask();
      if (found !== undefined && found !== false) return found;
      if (Date.now() > end)
        throw new Error(`waited in vain for ${what}${why === undefined ? "" : ` (${await why()})`}`);
      await this.changed();
    }
  }

  /** Resolves when the page has changed and is drawn, or after a while. */
  private async changed(): Promise<void> {
    // One observer at a time: a page that goes takes it along.
    this.change ??= this.page
      .evaluate(
        () =>
          new Promise<void>((done) => {
            const observer = new MutationObserver(() => {
              observer.disconnect();
              requestAnimationFrame(() => done());
            });
            observer.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
          }),
      )
      .catch(() => undefined)
      .finally(() => {
        this.change = undefined;
      });
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<void>((resolve) => {
      timer = setTimeout(resolve, ASK_AGAIN);
    });
    await Promise.race([this.change, late]);
    clearTimeout(timer);
  }

  /** Lets go of every element that was given: the page keeps what it has shown for as long as one of it is held. */
  async letGo(): Promise<void> {
    await Promise.all(this.found.splice(0).map((element) => element.dispose().catch(() => undefined)));
  }

  /** The element of that role and name, until the test ends; waits for it. */
  async find(role: string, name: Name): Promise<ElementHandle<Element>> {
    const element = await this.until(`${role} ${name}`, async () => {
      const found = await this.page
        .evaluateHandle((role, name) => byRole(role, name).at(0) ?? null, role, named(name))
        .catch(() => undefined);
      return (found?.asElement() as ElementHandle<Element> | null | undefined) ?? undefined;
    });
    this.found.push(element);
    return element;
  }

  /** All names of that role that there are now. */
  async names(role: string, name: Name = /./): Promise<string[]> {
    return this.page.evaluate((role, name) => byRole(role, name).map(nameOf), role, named(name)).catch(() => []);
  }

  private isThere(role: string, name: Name): Promise<boolean> {
    return this.inPage(role, name, () => true).then((there) => there === true);
  }

  /** Waits until something of that role and name is there. */
  async see(role: string, name: Name, patience = PATIENCE): Promise<void> {
    await this.until(`${role} ${name}`, () => this.isThere(role, name), patience);
  }

  /** Waits until nothing of that role and name is there. */
  async seeNo(role: string, name: Name): Promise<void> {
    await this.until(`${role} ${name} to go`, async () => !(await this.isThere(role, name)));
  }

  /** The value of a slider or text box. */
  async valueOf(role: string, name: Name): Promise<string> {
    return this.until(`${role} ${name}`, async () => {
      const found = await this.inPage(role, name, (e) => [
        e.getAttribute("aria-valuenow") ?? (e as HTMLInputElement).value,
      ]);
      return found?.[0] === undefined ? undefined : String(found[0]);
    }).then(String);
  }

  /** The number a slider stands at, once it stays there over two pictures of the page. */
  async restOf(name: Name): Promise<number> {
    let last = Number.NaN;
    await this.until(`slider ${name} to rest`, async () => {
      const before = last;
      await this.page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
      last = Number(await this.valueOf("slider", name));
      return last === before;
    });
    return last;
  }

  /** Presses with the pointer, in the middle of the element; waits until it can be pressed, and follows it where it moves. */
  async press(role: string, name: Name): Promise<void> {
    let last = "it was not pressed";
    await this.until(
      `${role} ${name} to be pressed`,
      async () => {
        const place = await this.place(role, name, true);
        if (place === undefined) return false;
        await this.page.mouse.click(place.x, place.y);
        const came = await landed(this.page);
        if (came === "broken") throw new Error(`${role} ${name} was drawn anew while it was pressed`);
        last = `the press at ${place.x}, ${place.y} went ${came}`;
        return came === "there";
      },
      PATIENCE,
      async () => `${last}; ${(await this.inPage(role, name, stateOf)) ?? "there is none"}`,
    );
  }

  /**
   * A drag between two places in an element, in shares of its box, whose move and end come within one task: as on a
   * busy machine, nothing is drawn between them.
   */
  async dragAtOnce(role: string, name: Name, from: [number, number], to: [number, number]): Promise<void> {
    await this.ready(role, name);
    const element = await this.find(role, name);
    // Each goes by itself: what is awaited within the page may be lost with what the drag throws away there.
    const tell = (types: readonly string[], place: [number, number]) =>
      element.evaluate(
        (e, all, [x, y]) => {
          // There is no such pointer that could be captured.
          e.setPointerCapture = () => {};
          const box = e.getBoundingClientRect();
          for (const type of all)
            e.dispatchEvent(
              new PointerEvent(type, {
                bubbles: true,
                pointerId: 1,
                buttons: 1,
                clientX: box.left + x * box.width,
                clientY: box.top + y * box.height,
              }),
            );
        },
        types,
        place,
      );
    await tell(["pointerdown"], from);
    await this.page.evaluate(() => new Promise(requestAnimationFrame));
    await tell(["pointermove", "lostpointercapture"], to);
  }

  /** Chooses an option in a list that opens; a list that closed again, as one does when the page scrolls, is opened anew. */
  async choose(list: Name, option: Name): Promise<void> {
    await this.until(`the list of ${list} to open`, async () => {
      if (await this.isThere("option", option)) return true;
      if ((await this.page.$('[data-trigger="Select"]')) === null) await this.press("button", list);
      return false;
    });
    await this.press("option", option);
    await this.listClosed(list);
  }

  /** Waits until the list that a choice was made from has closed. */
  async listClosed(list: Name): Promise<void> {
    await this.until(
      `the list of ${list} to close`,
      async () => (await this.page.$('[data-trigger="Select"]')) === null,
    );
  }

  /** Has a text box take words in the place of those that it has: pressed by a pointer, or as `press` does it. */
  async takeWords(
    box: Name,
    press = ({ x, y }: Place): Promise<void> => this.page.mouse.click(x, y, { count: 3 }),
  ): Promise<void> {
    await this.until(`textbox ${box} to take words`, async () => {
      const place = await this.place("textbox", box);
      if (place === undefined) return false;
      await press(place);
      return this.inPage("textbox", box, (e) => {
        if (document.activeElement !== e) return false;
        (e as HTMLInputElement).select();
        return true;
      });
    });
  }

  /** Puts words into a text box at once, as from the clipboard, and enters them. */
  async enter(box: Name, text: string): Promise<void> {
    await this.takeWords(box);
    await this.page.keyboard.sendCharacter(text);
    await this.page.keyboard.press("Enter");
  }

  /** Moves the keyboard's focus with Tab until it is on the element, as one without a pointer does. */
  async tabTo(role: string, name: Name, most = 150): Promise<void> {
    const element = await this.find(role, name);
    for (let i = 0; i < most; i++) {
      if (
        await element.evaluate(
          (e) =>
            document.activeElement === e ||
            (document.activeElement !== null &&
              e.contains(document.activeElement) &&
              document.activeElement !== document.body),
        )
      )
        return;
      await this.page.keyboard.press("Tab");
    }
    throw new Error(`${role} ${name} cannot be reached with Tab`);
  }
}
