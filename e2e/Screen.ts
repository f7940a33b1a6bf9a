import type { CDPSession, ElementHandle, Page } from "puppeteer-core";

/** A name to find: all of it, or a pattern. */
export type Name = string | RegExp;

/** How long to wait for what must come, in ms. */
const PATIENCE = 40_000;

/** How soon to ask again where the page does not change, in ms: what is waited for may lie elsewhere. */
const ASK_AGAIN = 100;

interface AxNode {
  ignored: boolean;
  backendDOMNodeId?: number;
  name?: { value?: string };
  value?: { value?: unknown };
  properties?: { name: string; value: { value?: unknown } }[];
}

/** Whether an element stays where it is until the next picture: a pointer would miss one that is being pushed aside. */
const isStill = (element: ElementHandle<Element>) =>
  element
    .evaluate(async (e) => {
      const { x, y } = e.getBoundingClientRect();
      await new Promise(requestAnimationFrame);
      const now = e.getBoundingClientRect();
      return e.isConnected && now.x === x && now.y === y;
    })
    .catch((error: Error) => {
      // The page gave up the picture that was waited for.
      if (/Promise was collected/.test(error.message)) return false;
      throw error;
    });

/** Has an element note whether the pointer goes down and up on it; `pressBroke` tells. */
const watchPointer = (element: ElementHandle<Element>) =>
  element.evaluate((e) => {
    const watched = { e, landed: 0 };
    Object.assign(window, { watched });
    for (const type of ["pointerdown", "pointerup"])
      e.addEventListener(type, () => watched.landed++, { capture: true, once: true });
  });

/** Whether the element that was watched was drawn anew between the pointer's going down on it and up. */
const pressBroke = (page: Page) =>
  page
    .evaluate(() => {
      const { watched } = window as unknown as { watched?: { e: Element; landed: number } };
      return watched !== undefined && watched.landed === 1 && !watched.e.isConnected;
    })
    .catch(() => false); // the page went on to another one

/** Whether a control cannot be pressed now. */
export const isOff = (element: ElementHandle<Element>) =>
  element.evaluate((e) => (e as HTMLButtonElement).disabled || e.getAttribute("aria-disabled") === "true");

/** The page as a screen reader tells it: everything is found by role and name, in the browser's own accessibility tree. */
export class Screen {
  private marks = 0;
  /** The page's next change, while it is waited for. */
  private change: Promise<void> | undefined;

  private constructor(
    readonly page: Page,
    private readonly session: CDPSession,
  ) {}

  static async of(page: Page): Promise<Screen> {
    const session = await page.createCDPSession();
    await session.send("Accessibility.enable");
    return new Screen(page, session);
  }

  private async nodes(role: string, name: Name): Promise<AxNode[]> {
    // A text box that offers words is a text box all the same.
    if (role === "textbox") return [...(await this.nodesOf(role, name)), ...(await this.nodesOf("combobox", name))];
    return this.nodesOf(role, name);
  }

  private async nodesOf(role: string, name: Name): Promise<AxNode[]> {
    try {
      const { root } = await this.session.send("DOM.getDocument", { depth: 0 });
      const { nodes } = (await this.session.send("Accessibility.queryAXTree", { nodeId: root.nodeId, role })) as {
        nodes: AxNode[];
      };
      return nodes.filter((node) => {
        const text = node.name?.value ?? "";
        return !node.ignored && (typeof name === "string" ? text === name : name.test(text));
      });
    } catch {
      return []; // the page was changing just then
    }
  }

  readonly isStill = isStill;

  /** Waits until `ask` gives something. @throws Error that says what was awaited */
  async until<T>(what: string, ask: () => Promise<T | undefined | false>): Promise<T> {
    const end = Date.now() + PATIENCE;
    for (;;) {
      const found = await ask();
      if (found !== undefined && found !== false) return found;
      if (Date.now() > end) throw new Error(`waited in vain for ${what}`);
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

  /** The element of that role and name; waits for it. */
  async find(role: string, name: Name): Promise<ElementHandle<Element>> {
    return this.until(`${role} ${name}`, async () => {
      const [node] = await this.nodes(role, name);
      if (node?.backendDOMNodeId === undefined) return undefined;
      const mark = `m${this.marks++}`;
      try {
        const { object } = await this.session.send("DOM.resolveNode", { backendNodeId: node.backendDOMNodeId });
        await this.session.send("Runtime.callFunctionOn", {
          objectId: object.objectId,
          functionDeclaration:
            "function (mark) { (this.nodeType === 1 ? this : this.parentElement).setAttribute('data-found', mark); }",
          arguments: [{ value: mark }],
        });
      } catch {
        return undefined;
      }
      return (await this.page.$(`[data-found="${mark}"]`)) ?? undefined;
    });
  }

  /** All names of that role that there are now. */
  async names(role: string, name: Name = /./): Promise<string[]> {
    return (await this.nodes(role, name)).map((node) => node.name?.value ?? "");
  }

  /** Waits until something of that role and name is there. */
  async see(role: string, name: Name): Promise<void> {
    await this.until(`${role} ${name}`, async () => (await this.nodes(role, name)).length > 0);
  }

  /** Waits until nothing of that role and name is there. */
  async seeNo(role: string, name: Name): Promise<void> {
    await this.until(`${role} ${name} to go`, async () => (await this.nodes(role, name)).length === 0);
  }

  /** The value of a slider or text box. */
  async valueOf(role: string, name: Name): Promise<string> {
    return this.until(`${role} ${name}`, async () => {
      const [node] = await this.nodes(role, name);
      return node === undefined ? undefined : String(node.value?.value ?? "");
    });
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

  /** Presses with the pointer, in the middle of the element; waits until it can be pressed. */
  async press(role: string, name: Name): Promise<void> {
    await this.until(`${role} ${name} to be ready`, async () => {
      const element = await this.find(role, name);
      try {
        if (await isOff(element)) return false;
        await element.scrollIntoView();
        if (!(await isStill(element))) return false;
        await watchPointer(element);
        await element.click();
        return !(await pressBroke(this.page));
      } catch (error) {
        // It was drawn anew just then, and was not pressed.
        if (/not clickable|detached|not attached/.test((error as Error).message)) return false;
        throw error;
      }
    });
  }

  /**
   * A drag between two places in an element, in shares of its box, whose move and end come within one task: as on a
   * busy machine, nothing is drawn between them.
   */
  async dragAtOnce(role: string, name: Name, from: [number, number], to: [number, number]): Promise<void> {
    const element = await this.until(`${role} ${name} to stand still`, async () => {
      const found = await this.find(role, name);
      return (await isStill(found)) && found;
    });
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
      if ((await this.nodes("option", option)).length > 0) return true;
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

  /** Types into a text box and enters it. */
  async enter(box: Name, text: string): Promise<void> {
    await this.until(`textbox ${box} to take words`, async () => {
      const element = await this.find("textbox", box);
      await element.scrollIntoView();
      if (!(await isStill(element))) return false;
      await element.click({ count: 3 });
      return element.evaluate((e) => document.activeElement === e);
    });
    await this.page.keyboard.type(text);
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
