import type { ElementHandle, KeyInput } from "puppeteer-core";
import type { Name, Screen } from "../Screen";

/** How somebody works on the page: by pointer, by keyboard alone, or by touch. */
export interface Hands {
  /** Presses a control. */
  press(role: string, name: Name): Promise<void>;
  /** Chooses an option of a list that opens. */
  choose(list: Name, option: Name): Promise<void>;
  /** Types into a field in the place of what is there. */
  type(field: Name, text: string): Promise<void>;
  /** The same, and enters it. */
  enter(field: Name, text: string): Promise<void>;
  /** Holds a control down for as long as something takes. */
  hold(role: string, name: Name, meanwhile: () => Promise<void>): Promise<void>;
  /** Drags over a part of an element, from one place to another in px from its corner; missing where there is no pointer. */
  over?(role: string, name: Name, from: [number, number], to: [number, number]): Promise<void>;
  /** Drags a control by so many pixels. */
  drag(role: string, name: Name, dx: number, dy: number): Promise<void>;
}

export function byPointer(screen: Screen): Hands {
  const { mouse, keyboard } = screen.page;
  const type = async (field: Name, text: string) => {
    await screen.takeWords(field);
    await keyboard.sendCharacter(text);
  };
  return {
    press: (role, name) => screen.press(role, name),
    choose: (list, option) => screen.choose(list, option),
    type,
    async enter(field, text) {
      await type(field, text);
      await keyboard.press("Enter");
    },
    async hold(role, name, meanwhile) {
      const { x, y } = await screen.ready(role, name);
      await mouse.move(x, y);
      await mouse.down();
      await meanwhile();
      await mouse.up();
    },
    async over(role, name, [x, y], [u, v]) {
      await screen.ready(role, name);
      const box = await (await screen.find(role, name)).boundingBox();
      if (box === null) throw new Error("it is not on the page");
      await mouse.move(box.x + x, box.y + y);
      await mouse.down();
      await mouse.move(box.x + (x + u) / 2, box.y + (y + v) / 2);
      await mouse.move(box.x + u, box.y + v);
      await mouse.up();
    },
    async drag(role, name, dx, dy) {
      const { x, y } = await screen.ready(role, name);
      await mouse.move(x, y);
      await mouse.down();
      await mouse.move(x + dx / 2, y + dy / 2);
      await mouse.move(x + dx, y + dy);
      await mouse.up();
    },
  };
}

export function byTouch(screen: Screen): Hands {
  const { touchscreen, keyboard } = screen.page;
  const press = async (role: string, name: Name) => {
    const { x, y } = await screen.ready(role, name);
    await touchscreen.tap(x, y);
  };
  const type = async (field: Name, text: string) => {
    await screen.takeWords(field, ({ x, y }) => touchscreen.tap(x, y));
    await keyboard.sendCharacter(text);
  };
  return {
    press,
    async choose(list, option) {
      await press("button", list);
      await press("option", option);
      await screen.listClosed(list);
    },
    type,
    async enter(field, text) {
      await type(field, text);
      await keyboard.press("Enter");
    },
    async hold(role, name, meanwhile) {
      const { x, y } = await screen.ready(role, name);
      const touch = await touchscreen.touchStart(x, y);
      await meanwhile();
      await touch.end();
    },
    async drag(role, name, dx, dy) {
      const { x, y } = await screen.ready(role, name);
      const touch = await touchscreen.touchStart(x, y);
      await touch.move(x + dx / 2, y + dy / 2);
      await touch.move(x + dx, y + dy);
      await touch.end();
    },
  };
}

/** The fewest keys from what has the focus to a control, by what stands where on the page. Runs in the page. */
function wayTo(target: Element): string[] {
  const room = document.querySelector("[role=dialog]") ?? document;
  const groups = "[role=radiogroup], [role=toolbar]";
  // A group of which one is chosen is one stop.
  const isPassed = (stop: HTMLElement) => {
    const all = [...(stop.closest(groups)?.querySelectorAll<HTMLElement>("button, [role=radio]") ?? [])];
    const chosen = all.find((one) => one.matches("[aria-checked=true], [aria-pressed=true], [data-selected]"));
    return chosen !== undefined && stop !== chosen;
  };
  const stops = [...room.querySelectorAll<HTMLElement>("a[href], button, input, textarea, [tabindex]")].filter(
    (stop) =>
      stop.tabIndex >= 0 &&
      !(stop as HTMLButtonElement).disabled &&
      stop.getClientRects().length > 0 &&
      !isPassed(stop),
  );
  const group = target.closest(`${groups}, table, [role=application], [role=listbox]`);
  const own = stops.indexOf(target as HTMLElement);
  const to = own >= 0 ? own : stops.findIndex((stop) => group?.contains(stop));
  const from = stops.indexOf(document.activeElement as HTMLElement);
  const tabs = (n: number) => new Array<string>(Math.abs(n)).fill(n < 0 ? "Shift+Tab" : "Tab");
  const cost = (way: readonly string[]) => way.reduce((sum, step) => sum + step.split("+").length, 0);
  const ways = [from < 0 ? tabs(to + 1) : tabs(to - from)];
  const panes = [...document.querySelectorAll("[data-pane]")].filter((pane) => stops.some((s) => pane.contains(s)));
  const now = panes.findIndex((pane) => pane.contains(document.activeElement));
  if (room === document)
    panes.forEach((pane, i) => {
      const first = stops.findIndex((stop) => pane.contains(stop));
      const on = now < 0 ? i + 1 : (i - now + panes.length) % panes.length || panes.length;
      ways.push([...new Array<string>(on).fill("F6"), ...tabs(to - first)]);
    });
  return ways.reduce((best, way) => (cost(way) < cost(best) ? way : best));
}

/** The keyboard alone; every key that goes down is counted. */
export function byKeyboard(screen: Screen): Hands & { presses: () => number } {
  const { page } = screen;
  let count = 0;
  const key = async (...keys: KeyInput[]) => {
    for (const down of keys.slice(0, -1)) await page.keyboard.down(down);
    await page.keyboard.press(keys[keys.length - 1]);
    for (const down of keys.slice(0, -1)) await page.keyboard.up(down);
    count += keys.length;
  };
  const has = (element: ElementHandle<Element>) =>
    element.evaluate(
      (e) =>
        document.activeElement === e || (document.activeElement?.contains(e) && e.closest("svg") !== null) || false,
    );

  /** Goes from one of a group to another. */
  const goWithin = async (element: ElementHandle<Element>, back: KeyInput, on: KeyInput): Promise<void> => {
    const isBefore = () =>
      element.evaluate(
        (e) => (document.activeElement?.compareDocumentPosition(e) ?? 0) & Node.DOCUMENT_POSITION_PRECEDING,
      );
    for (let i = 0; i < 30 && !(await has(element)); i++) await key((await isBefore()) ? back : on);
  };

  /** Goes to a control as one who knows the page: to its pane by F6, on by Tab, within a group by the arrow keys. */
  const goTo = async (role: string, name: Name): Promise<void> => {
    await screen.ready(role, name);
    let element = await screen.find(role, name);
    if (await has(element)) return;
    let way: string[] = [];
    // The page may change while keys are pressed, and show the control anew; then the way goes on from where the focus is.
    for (let i = 0; i < 3 && !(await has(element)); i++) {
      element = await screen.find(role, name);
      way = await element.evaluate(wayTo);
      for (const step of way) await key(...(step.split("+") as KeyInput[]));
      await goWithin(element, "ArrowLeft", "ArrowRight");
    }
    if (!(await has(element))) throw new Error(`${role} ${name} was not reached by ${way.join(" ")}`);
  };
  const type = async (field: Name, text: string) => {
    await goTo("textbox", field);
    if ((await screen.valueOf("textbox", field)) !== "") await key("Control", "a");
    // All at once: what each key does in a field is tried elsewhere.
    await page.keyboard.sendCharacter(text);
    count += text.length;
  };
  return {
    presses: () => count,
    async press(role, name) {
      const stage =
        role === "link" ? ["Sense", "Decide", "Act", "Prove", "Ship"].findIndex((s) => String(name).includes(s)) : -1;
      if (stage >= 0) return key("Alt", `Digit${stage + 1}` as KeyInput);
      await goTo(role, name);
      await key(role === "radio" || role === "checkbox" ? "Space" : "Enter");
    },
    async choose(list, option) {
      await goTo("button", list);
      await key("Enter");
      await goWithin(await screen.find("option", option), "ArrowUp", "ArrowDown");
      await key("Enter");
      await screen.listClosed(list);
    },
    type,
    async enter(field, text) {
      await type(field, text);
      await key("Enter");
    },
    async hold(role, name, meanwhile) {
      await goTo(role, name);
      await page.keyboard.down("Space");
      count++;
      await meanwhile();
      await page.keyboard.up("Space");
    },
    async drag() {
      throw new Error("the keyboard has no drag: its arrow keys move what has the focus");
    },
  };
}

/** Each way to work on the page. */
export const HANDS = { pointer: byPointer, touch: byTouch, keyboard: byKeyboard };
