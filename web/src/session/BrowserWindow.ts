const LOCK = "perceptum-window-";
const BEFORE = "perceptum-window";

/** This window among others of the same browser: its name, and which of the others are still there. */
export class BrowserWindow {
  readonly name = crypto.randomUUID();
  /** The name that this window had before the page was loaded anew; null in a new window. */
  readonly before = sessionStorage.getItem(BEFORE);

  constructor() {
    sessionStorage.setItem(BEFORE, this.name);
    // Held as long as the page lives; the browser lets go of it even when the page crashes.
    void navigator.locks?.request(LOCK + this.name, () => new Promise(() => undefined));
  }

  /** The names of the other windows that are open now. */
  async others(): Promise<ReadonlySet<string>> {
    const { held = [] } = (await navigator.locks?.query()) ?? {};
    const names = held.flatMap(({ name }) => (name?.startsWith(LOCK) ? [name.slice(LOCK.length)] : []));
    return new Set(names.filter((name) => name !== this.name));
  }
}
