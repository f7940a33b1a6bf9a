import { problemOf } from "../state/api";
import { NotTaken } from "./Readings";

/** So many frames are sent at a time. */
const AT_ONCE = 4;
/** A frame that is not sent for longer than this is tried again later, in ms. */
const SEND_LIMIT_MS = 30_000;

/** The frames of one project that the server does not have yet, as PNG by their names. */
export class Frames {
  private readonly own = new Map<string, Uint8Array<ArrayBuffer>>();

  constructor(private readonly project: string) {}

  get unsent(): ReadonlyMap<string, Uint8Array<ArrayBuffer>> {
    return this.own;
  }

  add(name: string, bytes: Uint8Array<ArrayBuffer>): void {
    this.own.set(name, bytes);
  }

  address(name: string): string {
    return `/api/projects/${this.project}/frames/${name}`;
  }

  /** Sends those of some frames that the server does not have. @throws NotTaken, or what fetch throws */
  async send(names: Iterable<string>): Promise<void> {
    const waiting = [...new Set(names)].filter((name) => this.own.has(name));
    const one = async (): Promise<void> => {
      for (let name = waiting.shift(); name !== undefined; name = waiting.shift()) {
        const response = await fetch(this.address(name), {
          method: "PUT",
          headers: { "Content-Type": "image/png" },
          body: this.own.get(name) ?? null,
          signal: AbortSignal.timeout(SEND_LIMIT_MS),
        });
        if (!response.ok) throw new NotTaken(response.status, await problemOf(response));
        this.own.delete(name);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, one));
  }
}

/** The frames that tapes name. */
export const framesOf = (tapes: readonly { frames?: readonly string[] | undefined }[]): string[] =>
  tapes.flatMap((tape) => tape.frames ?? []);
