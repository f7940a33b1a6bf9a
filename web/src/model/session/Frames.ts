import { at } from "@perceptum/contract/paths";
import type { FramesByName } from "@perceptum/core/project";
import { problemOf } from "../../server/api";
import { ask } from "../../server/ask";
import { NotTaken } from "./Readings";

/** Sends or fetches so many frames at a time. */
const AT_ONCE = 4;
/** A frame that is not sent for longer than this is tried again later, in ms. */
const SEND_LIMIT_MS = 30_000;

interface FramesListener {
  added(name: string, bytes: Uint8Array<ArrayBuffer>): void;
  sent(name: string): void;
}

/** The frames of one project that the server does not have yet, as PNG by their names. */
export class Frames {
  private readonly own = new Map<string, Uint8Array<ArrayBuffer>>();
  private readonly listeners = new Set<FramesListener>();

  constructor(private readonly project: string) {}

  get unsent(): ReadonlyMap<string, Uint8Array<ArrayBuffer>> {
    return this.own;
  }

  add(name: string, bytes: Uint8Array<ArrayBuffer>): void {
    this.own.set(name, bytes);
    for (const { added } of this.listeners) added(name, bytes);
  }

  /** Has a listener hear of what comes and what the server has then; gives how it stops. */
  listen(listener: FramesListener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Sends those of some frames that the server does not have. @throws NotTaken, or what fetch throws */
  async send(names: Iterable<string>): Promise<void> {
    const waiting = [...new Set(names)].filter((name) => this.own.has(name));
    await someAtOnce(waiting, async (name) => {
      const response = await fetch(this.address(name), {
        method: "PUT",
        headers: { "Content-Type": "image/png" },
        body: this.own.get(name) ?? null,
        signal: AbortSignal.timeout(SEND_LIMIT_MS),
      });
      if (!response.ok) throw new NotTaken(response.status, await problemOf(response));
      this.own.delete(name);
      for (const { sent } of this.listeners) sent(name);
    });
  }

  /** Frames as a project file holds them; those that only the server has are fetched. @throws Error with a sentence */
  async forFile(names: readonly string[]): Promise<FramesByName> {
    const held: Record<string, string> = {};
    await someAtOnce(names, async (name) => {
      held[name] = base64Of(this.own.get(name) ?? (await this.fetched(name)));
    });
    return held;
  }

  private async fetched(name: string): Promise<Uint8Array> {
    const response = await ask(this.address(name)).catch((error: Error) => {
      throw new Error(`The frames cannot be fetched: ${error.message}.`);
    });
    if (response.status === 404) throw new Error("A frame of this project is not at the server any more.");
    if (!response.ok) throw new Error(`The frames cannot be fetched: ${await problemOf(response)}.`);
    return new Uint8Array(await response.arrayBuffer());
  }

  private address(name: string): string {
    return at("frame", { id: this.project, name });
  }
}

async function someAtOnce(names: readonly string[], work: (name: string) => Promise<void>): Promise<void> {
  const waiting = [...names];
  const one = async (): Promise<void> => {
    for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) await work(name);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, one));
}

/** Function calls take no more arguments than this. */
const BYTES_AT_ONCE = 0x2000;

function base64Of(bytes: Uint8Array): string {
  let text = "";
  for (let from = 0; from < bytes.length; from += BYTES_AT_ONCE)
    text += String.fromCharCode(...bytes.subarray(from, from + BYTES_AT_ONCE));
  return btoa(text);
}
