import type { KeptChange } from "../model/session/kept";
import type { OwnWindow } from "../model/surroundings";

const LOCK = "perceptum-window-";
const BEFORE = "perceptum-window";
const LEFT = "perceptum-left";

/** This window among others of the same browser: its name, and which of the others are still there. */
export class BrowserWindow implements OwnWindow {
  readonly name = crypto.randomUUID();
  readonly before = sessionStorage.getItem(BEFORE);
  /** What the page before left unsent as it went away. */
  private left: KeptChange | null;

  constructor() {
    sessionStorage.setItem(BEFORE, this.name);
    const left = sessionStorage.getItem(LEFT);
    this.left = left === null ? null : (JSON.parse(left) as KeptChange);
    sessionStorage.removeItem(LEFT);
    // Held as long as the page lives; the browser lets go of it even when the page crashes.
    void navigator.locks?.request(LOCK + this.name, () => new Promise(() => undefined));
  }

  leave(change: KeptChange): void {
    try {
      sessionStorage.setItem(LEFT, JSON.stringify(change));
    } catch {
      // It is larger than a window may keep: what the browser keeps besides has to do.
    }
  }

  takeLeft(project: string): KeptChange | null {
    const { left } = this;
    if (left?.project !== project) return null;
    this.left = null;
    return left;
  }

  async others(): Promise<ReadonlySet<string>> {
    const { held = [] } = (await navigator.locks?.query()) ?? {};
    const names = held.flatMap(({ name }) => (name?.startsWith(LOCK) ? [name.slice(LOCK.length)] : []));
    return new Set(names.filter((name) => name !== this.name));
  }
}
