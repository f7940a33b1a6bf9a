import { randomUUID } from "node:crypto";
import type { Address, Listens, LiveMoment, SentRow } from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import type { Response } from "express";
import { Problem } from "../problem";
import type { Picture } from "./Looks";
import { OpenLink, type Taken } from "./OpenLink";

/** A page that has opened a link has so long to watch it, in ms. */
const WATCH_WITHIN_MS = 10_000;
/** Pictures that wait to be fetched have so many bytes at most, over all links. */
const MOST_WAITING_BYTES = 64 * 1024 * 1024;

/** Keeps a log of what is commanded. */
export type LogCommand = (link: string, moment: Pick<LiveMoment, "t" | "commands">) => void;

interface Opened {
  link: OpenLink;
  /** The token by which the page that opened it watches it. */
  token: string;
}

/** The links that are open. Each is opened by a page, is open as long as that watches, and then takes nothing any more. */
export class LinkHub {
  private readonly open = new Map<string, Opened>();

  /** @param lookWorker the built file of the worker that looks at pictures */
  constructor(
    private readonly lookWorker: string,
    private readonly log: LogCommand = () => undefined,
  ) {}

  /** Opens a link for a page; the page that opened it before is told. Gives what it is watched by. */
  openFor(id: string, listens: Listens): string {
    this.open.get(id)?.link.end(true);
    const token = randomUUID();
    const link = new OpenLink(id, listens, {
      log: this.log,
      lookWorker: this.lookWorker,
      hasRoom: (bytes) => this.waitingBytes + bytes <= MOST_WAITING_BYTES,
    });
    this.open.set(id, { link, token });
    setTimeout(() => {
      if (!link.isWatched) this.close(id, link);
    }, WATCH_WITHIN_MS).unref();
    return token;
  }

  private get waitingBytes(): number {
    let sum = 0;
    for (const { link } of this.open.values()) sum += link.waitingBytes;
    return sum;
  }

  /** The page that opened a link watches it from now on. @throws Problem 409 where it did not open it, or another did since */
  watch(id: string, token: string, watcher: Response): void {
    const opened = this.open.get(id);
    if (opened === undefined || opened.token !== token || opened.link.isWatched) throw notOpen();
    const { link } = opened;
    link.watch(watcher, () => this.close(id, link));
  }

  private close(id: string, link: OpenLink): void {
    if (this.open.get(id)?.link === link) this.open.delete(id);
    link.end();
  }

  private linkOf(id: string): OpenLink {
    const opened = this.open.get(id);
    if (opened === undefined) throw notOpen();
    return opened.link;
  }

  /** Judges the lines of a link by other sensors from now on. @throws Problem 409 while it is not open */
  listenBy(id: string, listens: Listens): void {
    this.linkOf(id).listenBy(listens);
  }

  /** Opens the line to the robot. @throws Problem 409 while the link is not open, 502 where it cannot be opened */
  connect(id: string, address: Exclude<Address, { by: "stdio" }>): Promise<void> {
    return this.linkOf(id).connect(address);
  }

  /** Adds who hears what a robot that sends by POST is told. @throws Problem 409 while the link is not open */
  listen(id: string, listener: Response): void {
    this.linkOf(id).listen(listener);
  }

  /** Lets a project's behaviour act on the robot of a link. @throws Problem 409 while the link is not open, another acts, or this was stopped */
  start(id: string, act: string, project: ProjectDocument): void {
    const link = this.linkOf(id);
    for (const other of this.open.values())
      if (other.link !== link && other.link.isActing)
        throw new Problem(
          409,
          "Another acts",
          "another link acts on a robot already; stop it there, then let this one act",
        );
    link.start(act, project);
  }

  /** Changes the project by which an act goes. @throws Problem 409 where it does not act */
  change(id: string, act: string, project: ProjectDocument): void {
    this.linkOf(id).change(act, project);
  }

  /** Whoever watches what acts is there. */
  watchAct(id: string, act: string): void {
    this.open.get(id)?.link.watchAct(act);
  }

  /** The robot of a link stops, and nothing acts on it any more. */
  stop(id: string, act: string): void {
    this.open.get(id)?.link.stop(act);
  }

  /** Takes a picture in. @throws Problem 409 while the link is not open */
  takePicture(id: string, picture: Picture): void {
    this.linkOf(id).takePicture(picture);
  }

  /** Takes in lines of a robot. @throws Problem 409 while the link is not open, 503 while the page is too far behind */
  async takeRows(id: string, rows: Iterable<SentRow>): Promise<Taken> {
    return this.linkOf(id).takeRows(rows);
  }

  /** Tells if a link is open. */
  isOpen(id: string): boolean {
    return this.open.has(id);
  }

  /** A picture that waits, once; undefined where it was fetched or gave way to newer ones. */
  fetchPicture(id: string, n: number): Picture | undefined {
    return this.open.get(id)?.link.fetchPicture(n);
  }

  /** Lets go of every page and every robot, since the server ends. */
  end(): void {
    for (const { link } of this.open.values()) link.end();
    this.open.clear();
  }
}

export const notOpen = () =>
  new Problem(409, "Not open", "this link is not open; open it on Sense, at Live, and send again");
