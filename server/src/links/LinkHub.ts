import {
  type Address,
  DRIVE_EVERY_MS,
  Driver,
  Gathered,
  LineSplitter,
  type LinkState,
  type LiveMoment,
  MOST_LINE_BYTES,
  type PictureEvent,
  readRobotLine,
} from "@perceptum/core/live";
import type { ProjectDocument } from "@perceptum/core/project";
import { type CameraSensor, isCamera } from "@perceptum/core/readings";
import { ruleSetOf } from "@perceptum/core/rules";
import { Watch } from "@perceptum/core/vision";
import { frameOf, openWire, type Wire } from "@perceptum/wires";
import type { Response } from "express";
import { Problem } from "../problem";

/** So many of the last pictures of a link wait to be fetched. */
const MOST_WAITING = 8;

/** While so much waits for a page that is slow, nothing more is taken. */
const MOST_BEHIND_BYTES = 16 * 1024 * 1024;
/** Readings of a line are told to the page so often, in ms. */
const TELL_EVERY_MS = 20;
/** After so many ticks of what acts the page hears how it stands. */
const TICKS_TOLD = 100;
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

/** The camera whose pictures are answered, and what finds blobs in them. */
interface Looks {
  sensor: CameraSensor;
  watch: Watch;
}

/** A link that a page has opened and watches. */
interface OpenLink {
  watcher: Response;
  began: number;
  /** Pictures that came, and those of them that nobody fetched in time. */
  count: number;
  lost: number;
  waiting: Map<number, Picture>;
  /** The line that the server has opened to the robot; null for one that sends by POST. */
  wire: Wire | null;
  /** Who hears commands by server-sent events. */
  listeners: Set<Response>;
  /** Readings that a page which did not keep up was not told of, and how many of them it knows of. */
  missed: { count: number; told: number };
  /** What is wrong with the line. */
  trouble: string | null;
  /** The behaviour that acts, with what calls it. */
  acts: { driver: Driver; timer: ReturnType<typeof setInterval>; looks: Looks | null } | null;
}

/** Keeps a log of what is commanded. */
export type LogCommand = (link: string, moment: Pick<LiveMoment, "t" | "commands">) => void;

/** The links that are open. Each is opened by a page, is open as long as that watches, and then takes nothing any more. */
export class LinkHub {
  private readonly open = new Map<string, OpenLink>();

  constructor(private readonly log: LogCommand = () => undefined) {}

  /** Opens a link for a page, which hears of what comes by server-sent events. The page that opened it before is told. */
  watch(id: string, watcher: Response): void {
    const before = this.open.get(id);
    if (before !== undefined) {
      before.watcher.write("event: taken\ndata: {}\n\n");
      this.letGo(before);
    }
    const link: OpenLink = {
      watcher,
      began: performance.now(),
      count: 0,
      lost: 0,
      waiting: new Map(),
      wire: null,
      listeners: new Set(),
      missed: { count: 0, told: 0 },
      trouble: null,
      acts: null,
    };
    this.open.set(id, link);
    // The page left, was closed, or its computer went to sleep: nothing acts unwatched.
    watcher.on("close", () => {
      if (this.open.get(id) === link) this.open.delete(id);
      this.letGo(link);
    });
    watcher.status(200).set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" });
    tell(link, "open", {});
  }

  /** Ends all that goes on over a link; a robot that it acts on stops. */
  private letGo(link: OpenLink): void {
    this.rest(link);
    link.wire?.end();
    link.wire = null;
    for (const listener of link.listeners) listener.end();
    link.watcher.end();
  }

  private linkOf(id: string): OpenLink {
    const link = this.open.get(id);
    if (link === undefined) throw notOpen();
    return link;
  }

  /** Opens the line to the robot. @throws Problem 409 while nobody watches the link, 502 where it cannot be opened */
  async connect(id: string, address: Exclude<Address, { by: "stdio" }>): Promise<void> {
    const link = this.linkOf(id);
    this.stop(id);
    link.wire?.end();
    link.wire = null;
    let own: Wire | null = null;
    const lines: string[] = [];
    const gathered = new Gathered();
    // A robot says each reading by itself: the page hears of them together.
    let isSoon = false;
    const tellSoon = () => {
      if (isSoon) return;
      isSoon = true;
      setTimeout(() => {
        isSoon = false;
        tellReadings(link, gathered);
      }, TELL_EVERY_MS);
    };
    const splitter = new LineSplitter((line) => {
      if (line === null) return;
      lines.push(line);
      const read = readRobotLine(line);
      if ("message" in read) gathered.take(read.message, since(link));
    });
    const isOwn = () => own === null || link.wire === own;
    try {
      own = await openWire(address, {
        text: (part) => {
          if (!isOwn()) return;
          splitter.feed(part);
          if (lines.length === 0) return;
          const text = `${lines.splice(0).join("\n")}\n`;
          tellSoon();
          link.acts?.driver.take(text, performance.now());
        },
        paused: (why) => isOwn() && this.tellState(link, why),
        closed: (why) => {
          if (own === null || link.wire !== own) return;
          link.wire = null;
          this.rest(link);
          this.tellState(link, why ?? "the robot closed the line", true);
        },
      });
    } catch (error) {
      throw new Problem(502, "Not opened", `the line could not be opened: ${(error as Error).message}`);
    }
    if (this.open.get(id) !== link) {
      own.end();
      throw notOpen();
    }
    link.wire = own;
  }

  /** Adds who hears what a robot that sends by POST is told. @throws Problem 409 while nobody watches the link */
  listen(id: string, listener: Response): void {
    const link = this.linkOf(id);
    link.listeners.add(listener);
    listener.on("close", () => link.listeners.delete(listener));
    listener.status(200).set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store, no-transform" });
    listener.write(": what the robot is told\n\n");
  }

  /**
   * Lets a project's behaviour act on the robot of a link; where it acts already, by the project as it is now.
   * @throws Problem 409 while nobody watches the link, or while another acts
   */
  act(id: string, project: ProjectDocument): void {
    const link = this.linkOf(id);
    if (link.acts !== null) {
      link.acts.driver.change(project);
      link.acts.looks = looksOf(project);
      return;
    }
    for (const other of this.open.values())
      if (other.acts !== null)
        throw new Problem(
          409,
          "Another acts",
          "another link acts on a robot already; stop it there, then let this one act",
        );
    const driver = new Driver(
      project,
      (lines) => say(link, lines),
      (moment) => {
        if (moment.commands.length > 0) this.log(id, moment);
        tell(link, "moment", moment);
      },
    );
    let ticks = 0;
    const timer = setInterval(() => {
      driver.tick(performance.now());
      if (driver.finished) {
        this.rest(link);
        this.tellState(link, "the behaviour has finished");
      } else if (++ticks % TICKS_TOLD === 0) this.tellState(link, link.trouble);
    }, DRIVE_EVERY_MS);
    link.acts = { driver, timer, looks: looksOf(project) };
    this.tellState(link, null);
  }

  /** The robot of a link stops, and nothing acts on it any more. */
  stop(id: string): void {
    const link = this.open.get(id);
    if (link === undefined || link.acts === null) return;
    this.rest(link);
    this.tellState(link, null);
  }

  private rest(link: OpenLink): void {
    if (link.acts === null) return;
    clearInterval(link.acts.timer);
    link.acts.driver.stop();
    link.acts = null;
  }

  private tellState(link: OpenLink, trouble: string | null, over = false): void {
    link.trouble = trouble;
    const state: LinkState = { acting: link.acts !== null, trouble, over, counts: link.acts?.driver.counts ?? null };
    tell(link, "state", state);
  }

  /** Takes a picture in. @throws Problem 409 while nobody watches the link */
  takePicture(id: string, picture: Picture): void {
    const link = this.linkOf(id);
    const n = ++link.count;
    link.waiting.set(n, picture);
    for (const old of link.waiting.keys()) {
      if (link.waiting.size <= MOST_WAITING) break;
      link.waiting.delete(old);
      link.lost++;
    }
    const told: PictureEvent = { n, t: Math.round(performance.now() - link.began), lost: link.lost };
    tell(link, "picture", told);
    if (link.acts !== null && link.acts.looks !== null) this.answer(link, link.acts.driver, link.acts.looks, picture);
  }

  /** Lets the behaviour answer a picture of the robot's camera. */
  private answer(link: OpenLink, driver: Driver, { sensor, watch }: Looks, { type, bytes }: Picture): void {
    try {
      if (type === "image/webp") throw new RangeError("only PNG and JPEG can be looked at here");
      const frame = frameOf(bytes);
      const { width, height } = sensor.frame;
      if (frame.width !== width || frame.height !== height)
        throw new RangeError(
          `it has ${frame.width} × ${frame.height} px, the frames of ${sensor.name} ${width} × ${height}`,
        );
      const found = [...watch.look(frame)].map(([target, { x, y, width, height, area }]) => [
        target,
        [x - (width - 1) / 2, y - (height - 1) / 2, width, height, area],
      ]);
      driver.take(`${JSON.stringify({ s: sensor.id, blobs: Object.fromEntries(found) })}\n`, performance.now());
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      this.tellState(link, `a picture was not answered: ${error.message}`);
    }
  }

  /** Takes in lines of a robot; what cannot be read is passed over and told. @throws Problem 409 while nobody watches the link, 503 while the page is too far behind */
  takeLines(id: string, text: string): Taken {
    const link = this.linkOf(id);
    if (link.watcher.writableLength > MOST_BEHIND_BYTES)
      throw new Problem(503, "Too fast", "the page that watches this link does not keep up; send these again later");
    const taken: Taken = { readings: 0, refused: 0, errors: [] };
    const gathered = new Gathered();
    const lines = new LineSplitter((line, number) => {
      const read = line === null ? { error: `the line has more than ${MOST_LINE_BYTES} bytes` } : readRobotLine(line);
      if ("error" in read) {
        taken.refused++;
        if (taken.errors.length < MOST_ERRORS) taken.errors.push({ error: read.error, line: number });
      } else if (gathered.take(read.message, since(link))) taken.readings++;
    });
    lines.feed(text);
    lines.end();
    tellReadings(link, gathered);
    link.acts?.driver.take(`${text}\n`, performance.now());
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

  /** Lets go of every page and every robot, since the server ends. */
  end(): void {
    for (const link of this.open.values()) this.letGo(link);
  }
}

/** The first camera that the project's robot carries; null where it has none. */
function looksOf(project: ProjectDocument): Looks | null {
  const carried = project.robot.mounts.map(({ sensor }) => project.sensors.find(({ id }) => id === sensor));
  const sensor = carried.find((own): own is CameraSensor => own !== undefined && isCamera(own));
  if (sensor === undefined) return null;
  return { sensor, watch: new Watch(sensor, ruleSetOf(project, sensor), project.targets) };
}

const tell = ({ watcher }: OpenLink, event: string, data: object): void =>
  void watcher.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);

/** Says lines to the robot of a link, whichever way it hears. */
function say({ wire, listeners }: OpenLink, lines: readonly string[]): void {
  wire?.send(lines.map((line) => `${line}\n`).join(""));
  for (const listener of listeners) listener.write(lines.map((line) => `data: ${line}\n\n`).join(""));
}

/** How long a link has been open, in ms. */
const since = ({ began }: OpenLink) => Math.round(performance.now() - began);

function tellReadings(link: OpenLink, gathered: Gathered): void {
  const events = gathered.events();
  const { missed } = link;
  // A page that does not keep up misses what it could not show, and hears how much; what acts goes on.
  if (link.watcher.writableLength > MOST_BEHIND_BYTES) {
    for (const { v } of events) missed.count += v.length;
    return;
  }
  if (missed.count > missed.told) {
    missed.told = missed.count;
    tell(link, "missed", { count: missed.count });
  }
  for (const event of events) tell(link, "readings", event);
}

export const notOpen = () =>
  new Problem(409, "Nobody watches", "this link is not open; open it on Sense, at Live, and send again");
