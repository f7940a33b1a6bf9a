import type { AnswerOf } from "@perceptum/contract";
import {
  Acting,
  type Address,
  DRIVE_EVERY_MS,
  Gathered,
  LineReader,
  type Listens,
  type LiveMoment,
  type PictureEvent,
  RobotText,
  type SentRow,
} from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { openWire, type Wire } from "@perceptum/wires";
import type { Response } from "express";
import { Problem } from "../problem";
import { Looks, type Picture } from "./Looks";

/** A link keeps so many of its last pictures to be fetched. */
const MOST_WAITING = 8;
/** While so much waits for a page that is slow, nothing more is taken. */
const MOST_BEHIND_BYTES = 16 * 1024 * 1024;
/** Readings of a line are told to the page so often, in ms. */
const TELL_EVERY_MS = 20;
/** While nothing acts it is asked so often whether the robot is silent, in ms. */
const LISTEN_EVERY_MS = 250;
/** Of so many lines that cannot be read it is said why. */
const MOST_ERRORS = 20;
/** Takes so many lines in a row; others have their turn between. */
const ROWS_AT_ONCE = 200;

/** The count of lines that were sent, and of those that were refused. */
export type Taken = AnswerOf<"sendReadings">;

/** The server's services for a link. */
export interface LinkTools {
  log(link: string, moment: Pick<LiveMoment, "t" | "commands">): void;
  /** The built file of the worker that looks at pictures. */
  lookWorker: string;
  /** Tells if so many more bytes of pictures may wait, over all links. */
  hasRoom(bytes: number): boolean;
}

/** A link that a page has opened: it is open as long as that watches it. */
export class OpenLink {
  private watcher: Response | null = null;
  private readonly began = performance.now();
  /** Pictures that came, and those of them that nobody fetched in time. */
  private count = 0;
  private lost = 0;
  private readonly waiting = new Map<number, Picture>();
  /** The line that the server has opened to the robot; null for one that sends by POST. */
  private wire: Wire | null = null;
  /** Counts the lines that were asked for: only the last one is wanted. */
  private asked = 0;
  /** Readings that came over the wire and that the page was not told of yet. */
  private readonly heard = new Gathered();
  private soon: ReturnType<typeof setTimeout> | undefined;
  /** Who hears commands by server-sent events. */
  private readonly listeners = new Set<Response>();
  /** Readings that a page which did not keep up was not told of, and how many of them it knows of. */
  private readonly missed = { count: 0, told: 0 };
  private readonly acting: Acting;
  private readonly looks: Looks;
  private reader: LineReader;
  private timer: ReturnType<typeof setInterval> | undefined;
  private pacedFor: boolean | null = null;
  private ended = false;
  /** Bodies are taken one after the other. */
  private taking: Promise<unknown> = Promise.resolve();

  constructor(
    id: string,
    listens: Listens,
    private readonly tools: LinkTools,
  ) {
    this.reader = new LineReader(listens);
    this.acting = new Acting(
      {
        say: (lines) => this.say(lines),
        moment: (moment) => {
          if (moment.commands.length > 0) tools.log(id, moment);
          this.tell("moment", moment);
        },
        state: (state) => {
          this.tell("state", state);
          this.pace();
        },
      },
      { watched: true, goOn: "press “Let it act” to go on" },
    );
    this.looks = new Looks(tools.lookWorker, {
      found: (line) => this.acting.take(`${line}\n`, performance.now()),
      wrong: (why) => this.acting.say(why),
    });
    this.pace();
  }

  get isWatched(): boolean {
    return this.watcher !== null;
  }

  get isActing(): boolean {
    return this.acting.isActing;
  }

  /** Bytes of pictures that wait to be fetched. */
  get waitingBytes(): number {
    return [...this.waiting.values()].reduce((sum, { bytes }) => sum + bytes.length, 0);
  }

  /** Time is carried on often while something acts, and now and then while nothing does. */
  private pace(): void {
    if (this.ended || this.pacedFor === this.isActing) return;
    this.pacedFor = this.isActing;
    clearInterval(this.timer);
    this.timer = setInterval(
      () => this.acting.tick(performance.now()),
      this.isActing ? DRIVE_EVERY_MS : LISTEN_EVERY_MS,
    );
  }

  /** A page hears of what comes by server-sent events, and `left` is called when it goes. */
  watch(watcher: Response, left: () => void): void {
    this.watcher = watcher;
    // The page left, was closed, or its computer went to sleep: nothing acts unwatched.
    watcher.on("close", left);
    beginEvents(watcher);
    this.tell("open", {});
  }

  /** Judges lines by other sensors from now on. */
  listenBy(listens: Listens): void {
    this.reader = new LineReader(listens);
  }

  /** Ends all that goes on over it; a robot that it acts on stops. `taken`: another page has opened it. */
  end(taken = false): void {
    if (this.ended) return;
    this.acting.stop();
    this.ended = true;
    clearInterval(this.timer);
    this.looks.end();
    this.wire?.end();
    this.wire = null;
    for (const listener of this.listeners) listener.end();
    if (taken) this.tell("taken", {});
    this.watcher?.end();
  }

  /** Opens the line to the robot; one that was open, or is being opened, ends. @throws Problem 502 where it cannot be opened */
  async connect(address: Exclude<Address, { by: "stdio" }>): Promise<void> {
    const asked = ++this.asked;
    this.acting.renew(performance.now());
    this.wire?.end();
    this.wire = null;
    const isOwn = () => this.asked === asked && !this.ended;
    const heard = new RobotText(this.heard, () => this.since());
    let own: Wire;
    try {
      own = await openWire(address, {
        text: (part) => {
          if (!isOwn()) return;
          const text = heard.take(part);
          if (text === "") return;
          this.tellSoon();
          this.acting.take(text, performance.now());
        },
        paused: (why) => {
          if (!isOwn()) return;
          if (why === null) this.acting.back(performance.now());
          else this.acting.away(why, performance.now());
        },
        closed: (why) => {
          if (!isOwn()) return;
          this.wire = null;
          this.acting.lost(why ?? "the robot closed the line");
        },
      });
    } catch (error) {
      throw new Problem(502, "Not opened", `the line could not be opened: ${(error as Error).message}`);
    }
    if (!isOwn()) {
      own.end();
      throw new Problem(
        409,
        "Not wanted",
        "the line was opened anew, or the link was closed, before this one was there",
      );
    }
    this.wire = own;
    this.acting.renew(performance.now());
  }

  /** Adds who hears what a robot that sends by POST is told. */
  listen(listener: Response): void {
    this.listeners.add(listener);
    listener.on("close", () => this.listeners.delete(listener));
    beginEvents(listener);
    listener.write(": what the robot is told\n\n");
  }

  /** Lets a project's behaviour act on the robot. @throws Problem 409 where this act was stopped before it began */
  start(act: string, project: ProjectDocument): void {
    if (!this.acting.start(act, project, performance.now()))
      throw new Problem(409, "Stopped", "this was stopped before it began");
    this.looks.lookBy(project);
  }

  /** Changes the project by which an act goes. @throws Problem 409 where it does not act */
  change(act: string, project: ProjectDocument): void {
    if (!this.acting.change(act, project))
      throw new Problem(409, "Not acting", "nothing acts by this any more, so nothing was changed");
    this.looks.lookBy(project);
  }

  /** Whoever watches what acts is there. */
  watchAct(act: string): void {
    this.acting.watch(act, performance.now());
  }

  /** The robot stops; an act of this id never acts again. */
  stop(act: string): void {
    this.acting.stop(act);
  }

  /** Takes a picture in. */
  takePicture(picture: Picture): void {
    const n = ++this.count;
    this.acting.hear(performance.now());
    this.waiting.set(n, picture);
    for (const old of this.waiting.keys()) {
      if (this.waiting.size <= MOST_WAITING && this.tools.hasRoom(0)) break;
      this.waiting.delete(old);
      this.lost++;
    }
    const told: PictureEvent = { n, t: this.since(), lost: this.lost };
    this.tell("picture", told);
    if (this.isActing) this.looks.look(picture);
  }

  /** A picture that waits, once; undefined where it was fetched or gave way to newer ones. */
  fetchPicture(n: number): Picture | undefined {
    const picture = this.waiting.get(n);
    this.waiting.delete(n);
    return picture;
  }

  /** Takes in lines of a robot, some at a time; what cannot be read is passed over and told. @throws Problem 503 while the page is too far behind */
  takeRows(rows: Iterable<SentRow>): Promise<Taken> {
    if ((this.watcher?.writableLength ?? 0) > MOST_BEHIND_BYTES)
      throw new Problem(503, "Too fast", "the page that watches this link does not keep up; send these again later");
    const done = this.taking.then(() => this.takeInTurns(rows));
    this.taking = done.catch(() => undefined);
    return done;
  }

  private async takeInTurns(rows: Iterable<SentRow>): Promise<Taken> {
    const taken: Taken = { readings: 0, refused: 0, beyond: 0, errors: [] };
    const refuse = (error: string, line: number) => {
      taken.refused++;
      if (taken.errors.length < MOST_ERRORS) taken.errors.push({ error, line });
    };
    const gathered = new Gathered();
    let said: string[] = [];
    let n = 0;
    const pass = () => {
      this.tellReadings(gathered);
      if (said.length > 0 && !this.ended) this.acting.take(said.join(""), performance.now());
      said = [];
    };
    for (const row of rows) {
      if ("error" in row) refuse(row.error, row.line);
      else {
        const read = this.reader.read(row.said);
        const isReading = read.message !== undefined && gathered.take(read.message, this.since());
        if ("error" in read) refuse(read.error, row.line);
        else if (isReading || "blobs" in read.message) taken.readings++;
        if ("beyond" in read) taken.beyond++;
        said.push(`${row.said}\n`);
      }
      if (++n % ROWS_AT_ONCE !== 0) continue;
      pass();
      await new Promise(setImmediate);
    }
    pass();
    return taken;
  }

  /** Tells the page of readings together, since a robot says each by itself. */
  private tellSoon(): void {
    this.soon ??= setTimeout(() => {
      this.soon = undefined;
      this.tellReadings(this.heard);
    }, TELL_EVERY_MS);
  }

  private say(lines: readonly string[]): void {
    this.wire?.send(lines.map((line) => `${line}\n`).join(""));
    for (const listener of this.listeners) listener.write(lines.map((line) => `data: ${line}\n\n`).join(""));
  }

  private tell(event: string, data: object): void {
    this.watcher?.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  }

  /** The time since the link was opened, in ms. */
  private since(): number {
    return Math.round(performance.now() - this.began);
  }

  private tellReadings(gathered: Gathered): void {
    const events = gathered.events();
    const { missed } = this;
    // A page that does not keep up misses what it could not show, and hears how much; what acts goes on.
    if ((this.watcher?.writableLength ?? 0) > MOST_BEHIND_BYTES) {
      for (const { v } of events) missed.count += v.length;
      return;
    }
    if (missed.count > missed.told) {
      missed.told = missed.count;
      this.tell("missed", { count: missed.count });
    }
    for (const event of events) this.tell("readings", event);
  }
}

/** Begins an answer of server-sent events. */
const beginEvents = (response: Response) =>
  response.status(200).set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" });
