import {
  LineSplitter,
  MOST_LINE_BYTES,
  type PictureEvent,
  type ReadingsEvent,
  readRobotLine,
} from "@perceptum/core/live";
import type { Response } from "express";
import { Problem } from "../problem";

/** So many of the last pictures of a link wait to be fetched. */
const MOST_WAITING = 8;

/** While so much waits for a page that is slow, nothing more is taken. */
const MOST_BEHIND_BYTES = 16 * 1024 * 1024;
/** Of so many lines that cannot be read it is said why. */
const MOST_ERRORS = 20;

/** What came of lines that were sent. */
export interface Taken {
  readings: number;
  refused: number;
  errors: { error: string; line: number }[];
}

interface Picture {
  type: string;
  bytes: Buffer;
}

/** A link that a page has opened and watches. */
interface OpenLink {
  watcher: Response;
  began: number;
  /** Pictures that came, and those of them that nobody fetched in time. */
  count: number;
  lost: number;
  waiting: Map<number, Picture>;
}

/** The links that are open. Each is opened by a page, is open as long as that watches, and then takes nothing any more. */
export class LinkHub {
  private readonly open = new Map<string, OpenLink>();

  /** Opens a link for a page, which hears of what comes by server-sent events. The page that opened it before is told. */
  watch(id: string, watcher: Response): void {
    const before = this.open.get(id);
    if (before !== undefined) {
      before.watcher.write("event: taken\ndata: {}\n\n");
      before.watcher.end();
    }
    const link: OpenLink = { watcher, began: performance.now(), count: 0, lost: 0, waiting: new Map() };
    this.open.set(id, link);
    watcher.on("close", () => {
      if (this.open.get(id) === link) this.open.delete(id);
    });
    watcher.status(200).set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" });
    watcher.write("event: open\ndata: {}\n\n");
  }

  /** Takes a picture in. @throws Problem 409 while nobody watches the link */
  takePicture(id: string, picture: Picture): void {
    const link = this.open.get(id);
    if (link === undefined) throw notOpen();
    const n = ++link.count;
    link.waiting.set(n, picture);
    for (const old of link.waiting.keys()) {
      if (link.waiting.size <= MOST_WAITING) break;
      link.waiting.delete(old);
      link.lost++;
    }
    const told: PictureEvent = { n, t: Math.round(performance.now() - link.began), lost: link.lost };
    link.watcher.write(`event: picture\ndata: ${JSON.stringify(told)}\n\n`);
  }

  /** Takes in lines of a robot; what cannot be read is passed over and told. @throws Problem 409 while nobody watches the link, 503 while the page is too far behind */
  takeLines(id: string, text: string): Taken {
    const link = this.open.get(id);
    if (link === undefined) throw notOpen();
    if (link.watcher.writableLength > MOST_BEHIND_BYTES)
      throw new Problem(503, "Too fast", "the page that watches this link does not keep up; send these again later");
    const at = Math.round(performance.now() - link.began);
    const taken: Taken = { readings: 0, refused: 0, errors: [] };
    const bySensor = new Map<string, ReadingsEvent>();
    const lines = new LineSplitter((line, number) => {
      const read = line === null ? { error: `the line has more than ${MOST_LINE_BYTES} bytes` } : readRobotLine(line);
      if ("error" in read) {
        taken.refused++;
        if (taken.errors.length < MOST_ERRORS) taken.errors.push({ error: read.error, line: number });
        return;
      }
      if (!("s" in read.message) || "blobs" in read.message) return;
      const { s, t = null, v } = read.message;
      let event = bySensor.get(s);
      if (event === undefined) {
        event = { s, t: [], v: [], at };
        bySensor.set(s, event);
      }
      event.t.push(t);
      event.v.push(v);
      taken.readings++;
    });
    lines.feed(text);
    lines.end();
    for (const event of bySensor.values()) link.watcher.write(`event: readings\ndata: ${JSON.stringify(event)}\n\n`);
    return taken;
  }

  /** Whether a page watches the link. */
  isOpen(id: string): boolean {
    return this.open.has(id);
  }

  /** A picture that waits, once; undefined where it was fetched or gave way to newer ones. */
  fetchPicture(id: string, n: number): Picture | undefined {
    const waiting = this.open.get(id)?.waiting;
    const picture = waiting?.get(n);
    waiting?.delete(n);
    return picture;
  }

  /** Lets go of every page, since the server ends. */
  end(): void {
    for (const { watcher } of this.open.values()) watcher.end();
  }
}

export const notOpen = () =>
  new Problem(409, "Nobody watches", "this link is not open; open it on Sense, at Live, and send again");
