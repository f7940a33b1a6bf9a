import { problemOf } from "../state/api";
import { NotTaken } from "./Readings";

/** So many frames are sent at a time. */
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
    const one = async (): Promise<void> => {
      for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) {
        const response = await fetch(`/api/projects/${this.project}/frames/${name}`, {
          method: "PUT",
          headers: { "Content-Type": "image/png" },
          body: this.own.get(name) ?? null,
          signal: AbortSignal.timeout(SEND_LIMIT_MS),
        });
        if (!response.ok) throw new NotTaken(response.status, await problemOf(response));
        this.own.delete(name);
        for (const { sent } of this.listeners) sent(name);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, one));
  }
}

/** The frames that tapes name. */
export const framesOf = (tapes: readonly { frames?: readonly string[] | undefined }[]): string[] =>
  tapes.flatMap((tape) => tape.frames ?? []);
